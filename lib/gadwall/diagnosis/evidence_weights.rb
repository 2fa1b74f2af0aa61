# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What the evidence says of one circuit: for each atom and each presence, how likely everything seen there is,
    # against how likely it is with the circuit sound.
    #
    # Evidence is summed in logarithms (weight of evidence, Good 1950; from memory), so that no amount of it overflows,
    # and given out as shares of the strongest, exp(log ratio - peak): `ratios` of the atoms, `sound` of the sound
    # circuit (log_sound: its logarithm), `alternatives` of what a cause elsewhere makes of it. Their quotients are the
    # likelihood ratios.
    #
    # Presence 1.0 is a fault that is always there; the others come and go. ratios[presence index][atom index].
    # alternatives: "unpowered" (its module is dead), on a bus "silent_abs" (that module says nothing). scan_logs: log
    # ratios of the scans alone, for faults that are always there.
    class EvidenceWeights
      SILENT_WHEN_OFF = 0.98 # common practice: a module without power answers no scan
      SILENT_WHEN_SOUND = 0.01 # from memory: one sound module in a hundred misses a scan
      SILENCE_NOTICED = 0.95 # common practice: the others report a silent module
      REPEATED_POWER = 0.33 # a further code of the same circuit is hardly a second witness
      UNPOWERED = "unpowered"

      attr_reader :ratios, :sound, :log_sound, :scan_logs, :alternatives, :observations, :scans

      # circuit: Vehicle::System::Circuit; body: Evidence::Body; presences: [1.0, ...]; catalogue: for the model's
      # numbers.
      def initialize(circuit, body, presences, catalogue)
        @circuit = circuit
        @model = circuit.model
        @catalogue = catalogue
        @presences = presences
        @logs = presences.map { Array.new(@model.atoms.size, 0.0) }
        @alternative_logs = ([UNPOWERED] + silences.values).to_h { |name| [name, 0.0] }
        @observations = body.observations.select { |observation| observation.circuit.id == circuit.id }
        @scans = body.scans
        scans.each { |scan| weigh_scan(scan) }
        @scan_logs = @logs[0].dup.freeze
        observations.each { |observation| weigh_observation(observation) }
        scale
      end

      # By atom: how surely it leaves the circuit's module without power; nil for a circuit that carries none.
      def unpowering
        @model.unpowering
      end

      # The share that a likelihood ratio against the sound circuit has. log_ratio: its natural logarithm.
      def share(log_ratio)
        Math.exp(log_ratio - @peak)
      end

      private

      attr_reader :presences

      # Everything as shares of the strongest explanation.
      def scale
        @peak = [0.0, *@logs.map { |row| row.max || 0.0 }, *@alternative_logs.values].max
        @log_sound = -@peak
        @sound = share(0.0)
        @ratios = @logs.map { |row| row.map { |log| share(log) } }
        @alternatives = @alternative_logs.transform_values { |log| share(log) }
      end

      # {module id => name of its silence} for those that are on this bus.
      def silences
        @silences ||= @circuit.harness.modules.to_h { |id, _| [id, "silent_#{id}"] }
      end

      # density = (1 - gross error) x model + gross error x anything: one wrong probe cannot acquit the guilty.
      def weigh_observation(observation)
        densities =
          @model.table(observation.test).densities(observation.result, presences, provoked: observation.provoked?)
        error = @catalogue.model("gross_error")
        slack = error * GrossError.density(observation)
        sound = Math.log(((1 - error) * densities.sound) + slack)
        @alternative_logs[UNPOWERED] += Math.log(((1 - error) * densities.unpowered) + slack) - sound
        densities.by_presence.each_with_index { |by_atom, d| add_densities(@logs[d], by_atom, 1 - error, slack, sound) }
      end

      # Atoms that show the same share a density, so its logarithm is taken once.
      def add_densities(row, by_atom, modelled, slack, sound)
        known = {}
        by_atom.each_with_index do |density, i|
          row[i] += known[density] ||= Math.log((modelled * density) + slack) - sound
        end
      end

      def weigh_scan(scan)
        codes = scan.codes.select { |code| code.circuit_id == @circuit.id }
        weigh_answers(scan)
        return if codes.empty? && !scan.asked?(@circuit.module) # nobody looked

        codes.empty? ? weigh_silence : codes.each_with_index { |code, n| weigh_code(code, repeated: n.positive?) }
      end

      # A module answers when it has power, and when the bus reaches it.
      def weigh_answers(scan)
        answered = scan.answers(@circuit.module)
        weigh_answer(answered) { |i| unpowering[i] } unless unpowering.nil? || answered.nil?
        silences.each do |id, name|
          heard = scan.answers(id)
          next if heard.nil?

          weigh_answer(heard) { |i, presence| lost(id, presence)[i] }
          @alternative_logs[name] += Math.log(answer_ratio(heard, 1.0))
        end
      end

      def lost(module_id, presence)
        raised = monitors.raised(["lost_#{module_id}"], presence)
        presence < 1.0 ? raised.map { |chance| chance / Testing::Monitors::CAUGHT_BY_NOW } : raised
      end

      # The block gives by atom (and presence) how surely the module is cut off.
      def weigh_answer(answered)
        presences.each_with_index { |presence, d| add(d) { |i| answer_ratio(answered, yield(i, presence) * presence) } }
      end

      def answer_ratio(answered, off)
        answered ? 1 - (off * SILENT_WHEN_OFF) : 1 + (off * SILENT_WHEN_OFF / SILENT_WHEN_SOUND)
      end

      # No code in this circuit although its monitors ran.
      def weigh_silence
        presences.each_with_index do |presence, d|
          raised = monitors.raised(monitors.claims, presence)
          add(d) { |i| 1 - raised[i] }
        end
        @alternative_logs[UNPOWERED] += log(1 - monitors.raised_unpowered(monitors.claims))
        silences.each_value { |name| @alternative_logs[name] += log(1 - SILENCE_NOTICED) }
      end

      # A further code of the same circuit counts for a third (exponent).
      def weigh_code(code, repeated:)
        claims = claims_of(code)
        false_rate = @catalogue.model(code.status == "history" ? "history_code" : "false_code")
        presences.each_with_index do |presence, d|
          raised = monitors.raised(claims, presence)
          seen = status_chance(code, claims, presence)
          missed = repeated ? nil : monitors.key_on_chance(monitors.claims - claims)
          add(d) do |i|
            ratio = (raised[i] * seen / false_rate) + 1
            repeated ? ratio**REPEATED_POWER : ratio * quiet(missed[i], presence)
          end
        end
        weigh_code_elsewhere(code, claims, false_rate)
      end

      # The same code where the module is dead, or another one is silent.
      def weigh_code_elsewhere(code, claims, false_rate)
        seen = status_chance(code, claims, 1.0)
        @alternative_logs[UNPOWERED] += Math.log((monitors.raised_unpowered(claims) * seen / false_rate) + 1)
        silences.each do |id, name|
          next unless claims.include?("lost_#{id}")

          @alternative_logs[name] += Math.log((SILENCE_NOTICED * seen / false_rate) + 1)
        end
      end

      def monitors
        @model.monitors
      end

      # Adds the logarithm of what the block gives for each atom.
      def add(presence_index)
        row = @logs[presence_index]
        known = {}
        row.each_index do |i|
          ratio = yield(i)
          row[i] += known[ratio] ||= log(ratio)
        end
      end

      # The least ratio that counts: what is quite impossible stays at that.
      LEAST_RATIO = 1e-12

      def log(ratio)
        Math.log([ratio, LEAST_RATIO].max)
      end

      # The monitors that can have set the code; all of the circuit's where its claim fits none of them.
      def claims_of(code)
        claim = code.claim || "any"
        names = @catalogue.claims.key?(claim) ? @catalogue.claims.fetch(claim)["any_of"] : [claim]
        known = names & monitors.claims
        known.empty? ? monitors.claims : known
      end

      # Chance that a raised code stands with the status seen: present now, or history.
      def status_chance(code, claims, presence)
        return 1.0 if code.status.nil?

        key_on = monitors.key_on?(claims)
        now = presence < 1.0 ? (key_on ? presence : 0.4) : (key_on ? 0.95 : 0.7)
        code.status == "current" ? now : 1 - now
      end

      # An electrical fault that the key-on monitors must see, and did not: one monitor may mute another, so not quite a
      # witness.
      def quiet(missed, presence)
        1 - (0.92 * missed * (presence < 1.0 ? 0.5 : 1.0))
      end
    end
  end
end
