# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What the evidence says of one circuit: for each atom and each presence, how likely everything seen there is,
    # against how likely it is with the circuit sound. Ratios above 1 speak for the atom.
    #
    # Duty 1.0 is a fault that is always there; the others come and go. ratios[presence index][atom index].
    # alternatives: the same for what a cause elsewhere makes of the circuit: "unpowered" (its module is dead), on a bus
    # "silent_abs" (that module says nothing). scan_ratios: of the scans alone, for faults that are always there.
    class EvidenceWeights
      SILENT_WHEN_OFF = 0.98 # common practice: a module without power answers no scan
      SILENT_WHEN_SOUND = 0.01 # from memory: one sound module in a hundred misses a scan
      UNPOWERED = "unpowered"

      attr_reader :ratios, :scan_ratios, :alternatives, :observations, :scans

      # circuit: Vehicle::System::Circuit; body: Evidence::Body; presences: [1.0, ...]; catalogue: for the model's
      # numbers.
      def initialize(circuit, body, presences, catalogue)
        @circuit = circuit
        @model = circuit.model
        @catalogue = catalogue
        @presences = presences
        @ratios = presences.map { Array.new(@model.atoms.size, 1.0) }
        @alternatives = ([UNPOWERED] + silences.values).to_h { |name| [name, 1.0] }
        @observations = body.observations.select { |observation| observation.circuit.id == circuit.id }
        @scans = body.scans
        scans.each { |scan| weigh_scan(scan) }
        @scan_ratios = @ratios[0].dup.freeze
        observations.each { |observation| weigh_observation(observation) }
      end

      # By atom: how surely it leaves the circuit's module without power; nil for a circuit that carries none.
      def unpowering
        @model.unpowering
      end

      private

      attr_reader :presences

      # {module id => name of its silence} for those who hang on this bus.
      def silences
        @silences ||= @circuit.harness.modules.to_h { |id, _| [id, "silent_#{id}"] }
      end

      # density = (1 - gross_error) x model + gross_error x anything: one wrong probe cannot acquit the guilty.
      def weigh_observation(observation)
        densities =
          @model.table(observation.test).densities(observation.result, presences, provoked: observation.provoked?)
        slack = @catalogue.model("gross_error") * GrossError.density(observation)
        kept = 1 - @catalogue.model("gross_error")
        sound = (kept * densities.sound) + slack
        @alternatives[UNPOWERED] *= ((kept * densities.unpowered) + slack) / sound
        densities.by_presence.each_with_index do |by_atom, d|
          row = @ratios[d]
          by_atom.each_with_index { |density, i| row[i] *= ((kept * density) + slack) / sound }
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

          weigh_answer(heard) do |i, presence|
            monitors.raised(["lost_#{id}"], presence)[i] / (presence < 1.0 ? Testing::Monitors::CAUGHT_BY_NOW : 1.0)
          end
          @alternatives[name] *= answer_ratio(heard, 1.0)
        end
      end

      # The block gives by atom (and presence) how surely the module is cut off.
      def weigh_answer(answered)
        presences.each_with_index do |presence, d|
          scale(d) { |i| answer_ratio(answered, yield(i, presence) * presence) }
        end
      end

      def answer_ratio(answered, off)
        answered ? 1 - (off * SILENT_WHEN_OFF) : 1 + (off * SILENT_WHEN_OFF / SILENT_WHEN_SOUND)
      end

      # No code in this circuit although its monitors ran.
      def weigh_silence
        presences.each_with_index do |presence, d|
          raised = monitors.raised(monitors.claims, presence)
          scale(d) { |i| 1 - raised[i] }
        end
        @alternatives[UNPOWERED] *= 1 - monitors.raised_unpowered(monitors.claims)
        silences.each_value { |name| @alternatives[name] *= 1 - SILENCE_NOTICED }
      end

      SILENCE_NOTICED = 0.95 # common practice: the others report a silent module

      # A further code of the same circuit is hardly a second witness: it counts for a third (exponent).
      def weigh_code(code, repeated:)
        claims = claims_of(code)
        false_rate = @catalogue.model(code.status == "history" ? "history_code" : "false_code")
        presences.each_with_index do |presence, d|
          raised = monitors.raised(claims, presence)
          seen = status_chance(code, claims, presence)
          missed = repeated ? nil : monitors.key_on_chance(monitors.claims - claims)
          scale(d) do |i|
            ratio = (raised[i] * seen / false_rate) + 1
            repeated ? ratio**REPEATED_POWER : ratio * quiet(missed[i], presence)
          end
        end
        @alternatives[UNPOWERED] *= (
          monitors.raised_unpowered(claims) * status_chance(code, claims, 1.0) / false_rate
        ) + 1
        silences.each do |id, name|
          if claims.include?("lost_#{id}")
            @alternatives[name] *= (SILENCE_NOTICED * status_chance(code, claims, 1.0) / false_rate) + 1
          end
        end
      end

      REPEATED_POWER = 0.33

      def monitors
        @model.monitors
      end

      def scale(presence_index)
        row = @ratios[presence_index]
        row.each_index { |i| row[i] *= yield(i) }
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

        now =
          if presence < 1.0
            monitors.key_on?(claims) ? presence : 0.4
          else
            monitors.key_on?(claims) ? 0.95 : 0.7
          end
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
