# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What the scans say of one circuit, as log ratios against the sound circuit: which module answered, which codes
    # stand, and which do not although somebody looked. Most circuits of a vehicle have no code, so this is the same
    # for many jobs and is kept with the circuit's model (`of`). Frozen.
    #
    # logs[presence index][atom index]; alternatives: {name => log ratio}, see EvidenceWeights.
    class ScanWeights
      SILENT_WHEN_OFF = 0.98 # common practice: a module without power answers no scan
      SILENT_WHEN_SOUND = 0.01 # from memory: one sound module in a hundred misses a scan
      SILENCE_NOTICED = 0.95 # common practice: the others report a silent module
      WAS_NOTICED = 0.5 # from memory: a module that falls silent now and then is back before the others miss it, or not
      FLEETING = 0.5 # share of the time that such a module is silent; from memory
      WRONG_KIND = 0.2 # from memory: of codes whose circuit is right, so many name the wrong kind of fault
      # Claims that tools and modules take one for another: what a wire or a signal can have.
      KINDS_MIXED_UP = %w[
        open
        short
        short_to_ground
        short_to_supply
        no_signal
        implausible
        weak
        no_operation
        below_range
        above_range
        stalled
        no_clamp
      ].freeze
      # Claims of a module that has power, but too little or not all the time: what it reads then is not to be trusted.
      UPSET = %w[
        any
        implausible
        no_signal
        weak
        no_operation
        internal
        lost_message
        below_range
        above_range
        valve_supply
      ].freeze
      NOW = 0.5 # such a code is there at this moment, or an old one, alike; from memory
      FURTHER_CODE = 0.33 # a further code of the same circuit is hardly a second witness; from memory
      LEAST_RATIO = 1e-12 # what is quite impossible stays at that
      KEY_ON_SEEN = 0.92 # from memory: one monitor may mute another, so its silence is not quite a witness

      # What one scan says of one circuit: did its module answer, and those on its bus ({id => true, false or nil});
      # codes: [[claim, status], ...]; looked: did anybody read its module?
      Sight = Struct.new(:answered, :heard, :codes, :looked)

      # claims: of the codes that stood in the circuit, Array of ids.
      attr_reader :logs, :alternatives, :claims

      # circuit: Vehicle::System::Circuit; scans: Array of Observations::Scan; false_codes: FalseCodes; presences: [1.0,
      # ...]; catalogue: for the model's numbers; on_bus: does its module hang on a bus of the vehicle? Then its silence
      # is weighed there, once. Returns ScanWeights.
      def self.of(circuit, scans, false_codes, presences, catalogue, on_bus:)
        sights = scans.map { |scan| sight(circuit, scan, false_codes, on_bus) }
        circuit.model.cached([:scans, sights, presences]) { new(circuit.model, sights, presences, catalogue) }
      end

      def self.sight(circuit, scan, false_codes, on_bus)
        mine = scan.codes.select { |code| code.circuit_id == circuit.id }
        codes = mine.select(&:set?).map { |code| [code.claim, code.status, false_codes.rate(code)] }.sort_by(&:to_s)
        heard = circuit.harness.modules.to_h { |id, _| [id, scan.answers(id)] }
        untested = mine.any? { |code| code.status == "not_tested" }
        looked = codes.any? || (scan.asked?(circuit.module) && !untested)
        Sight.new(on_bus ? nil : scan.answers(circuit.module), heard, codes, looked).freeze
      end
      private_class_method :sight

      def initialize(model, sights, presences, catalogue)
        @model = model
        @catalogue = catalogue
        @presences = presences
        @logs = presences.map { Array.new(model.atoms.size, 0.0) }
        @silences = model.harness.modules.to_h { |id, _| [id, "silent_#{id}"] }
        names = [EvidenceWeights::UNPOWERED, *@silences.values, *@silences.keys.map { |id| was_silent(id) }]
        @alternatives = names.to_h { |name| [name, 0.0] }
        @claims = sights.flat_map { |sight| sight.codes.map(&:first) }.uniq.freeze
        @told = []
        sights.each { |sight| weigh(sight) }
        (@logs + [@logs, @alternatives, @told]).each(&:freeze)
        freeze
      end

      # What the scans say of two atoms that are both there all the time: each code is told by the one that explains it
      # better, and codes of different faults are witnesses of their own. Natural logarithm.
      def pair_log(first, second)
        beside = [first, second].map { |i| @logs[0][i] - @told.sum { |rows| witnessed(rows.map { |row| row[i] }) } }
        codes =
          @told.sum do |rows|
            apart = rows.map { |row| row.values_at(first, second) }.partition { |one, other| one >= other }
            apart.sum { |own| own.empty? ? 0.0 : witnessed(own.map(&:max)) }
          end
        codes + (beside.all?(&:negative?) ? beside.sum : beside.max)
      end

      private

      attr_reader :presences

      def weigh(sight)
        weigh_answers(sight)
        return unless sight.looked

        if sight.codes.empty?
          weigh_silence
        else
          weigh_missing(sight.codes.flat_map { |claim, _, _| claims_of(claim) })
          weigh_codes(sight.codes)
        end
      end

      # A module answers when it has power, and when the bus reaches it.
      def weigh_answers(sight)
        unpowering = @model.unpowering
        weigh_answer(sight.answered) { |_| unpowering } unless unpowering.nil? || sight.answered.nil?
        @silences.each do |id, name|
          heard = sight.heard[id]
          next if heard.nil?

          weigh_answer(heard) { |presence| lost(id, presence) } unless at_socket?(id)
          @alternatives[name] += Math.log(answer_ratio(heard, 1.0))
        end
      end

      # Does the scan tool reach it without the bus? Then that it answers says nothing of the bus.
      def at_socket?(module_id)
        @catalogue.modules.dig(module_id, "at_socket") || false
      end

      # By atom: how surely the bus does not reach this module while the fault is there.
      def lost(module_id, presence)
        raised = monitors.raised(["lost_#{module_id}"], presence)
        presence < 1.0 ? raised.map { |chance| chance / Tests::Monitors::CAUGHT_BY_NOW } : raised
      end

      # The block gives, for a presence, by atom how surely the module is cut off.
      def weigh_answer(answered)
        presences.each_with_index do |presence, d|
          off = yield presence
          add(d) { |i| answer_ratio(answered, off[i] * presence) }
        end
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
        @alternatives[EvidenceWeights::UNPOWERED] += log(1 - monitors.raised_unpowered(monitors.claims))
        @silences.each do |id, name|
          @alternatives[name] += log(1 - SILENCE_NOTICED)
          @alternatives[was_silent(id)] += log(1 - WAS_NOTICED)
        end
      end

      # The electrical monitors of the circuit that raised nothing. claims: of those that did.
      def weigh_missing(claims)
        missed = monitors.key_on_chance(monitors.claims - claims)
        presences.each_with_index { |presence, d| add(d) { |i| quiet(missed[i], presence) } }
      end

      # Codes of one circuit in one scan are hardly several witnesses: the one that a cause explains best counts whole,
      # the others a share. Their order in the scan is the tool's, and says nothing. codes: [[claim, status, rate of
      # such a code with the circuit sound], ...].
      def weigh_codes(codes)
        presences.each_with_index do |presence, d|
          rows = codes.map { |claim, status, rate| code_logs(claims_of(claim), status, rate, presence) }
          @told << rows if d.zero?
          @logs[d].each_index { |i| @logs[d][i] += witnessed(rows.map { |row| row[i] }) }
        end
        elsewhere(codes).each do |name, ratios|
          @alternatives[name] = @alternatives.fetch(name, 0.0) + witnessed(ratios.map { |ratio| Math.log(ratio + 1) })
        end
      end

      # By atom: how much likelier the code is with the fault than with the circuit sound, as a logarithm; equal ones
      # are taken once.
      def code_logs(claims, status, rate, presence)
        seen = status_chance(status, claims, presence)
        known = {}
        raised_by(claims, presence).map { |chance| known[chance] ||= Math.log((chance * seen / rate) + 1) }
      end

      # Logarithms of several codes as one: the largest, and a share of the others.
      def witnessed(logs)
        most = logs.max
        most + (FURTHER_CODE * (logs.sum - most))
      end

      # The same codes where the module is dead, where its supply is low, or another one is silent, or was: {name =>
      # [how much likelier each code is then, ...]}.
      def elsewhere(codes)
        codes.each_with_object(Hash.new { |told, name| told[name] = [] }) do |(claim, status, rate), told|
          claims = claims_of(claim)
          now, before = [1.0, FLEETING].map { |presence| status_chance(status, claims, presence) / rate }
          told[EvidenceWeights::UNPOWERED] << (monitors.raised_unpowered(claims) * now)
          told[EvidenceWeights::UPSET] << (dragged / rate) if UPSET.include?(claim || "any")
          @silences.each do |id, name|
            next unless claims.include?("lost_#{id}")

            told[name] << (SILENCE_NOTICED * now)
            told[was_silent(id)] << (WAS_NOTICED * before)
          end
        end
      end

      def dragged
        @catalogue.model("dragged_code") * NOW
      end

      # By atom: the chance that the code's monitors raised it; or another one of the circuit's, with a sub-type that is
      # not so.
      def raised_by(claims, presence)
        named = monitors.raised(claims, presence)
        return named unless claims.intersect?(KINDS_MIXED_UP)

        any = monitors.raised(monitors.claims & KINDS_MIXED_UP, presence)
        named.each_with_index.map { |chance, i| [chance, WRONG_KIND * any[i]].max }
      end

      def was_silent(id)
        EvidenceWeights.was_silent(id)
      end

      def monitors
        @model.monitors
      end

      # Adds the logarithm of what the block gives for each atom; equal ones are taken once.
      def add(presence_index)
        row = @logs[presence_index]
        known = {}
        row.each_index do |i|
          ratio = yield(i)
          row[i] += known[ratio] ||= log(ratio)
        end
      end

      def log(ratio)
        Math.log([ratio, LEAST_RATIO].max)
      end

      # The monitors that can have set the code; all of the circuit's where its claim fits none of them.
      def claims_of(claim)
        claim ||= "any"
        names = @catalogue.claims.key?(claim) ? @catalogue.claims.fetch(claim)["any_of"] : [claim]
        known = names & monitors.claims
        known.empty? ? monitors.claims : known
      end

      # Chance that a raised code stands with the status seen: present now, or history.
      def status_chance(status, claims, presence)
        return 1.0 if status.nil?

        key_on = monitors.key_on?(claims)
        now =
          if presence < 1.0
            key_on ? presence : 0.4
          else
            (key_on ? 0.95 : 0.7)
          end
        status == "current" ? now : 1 - now
      end

      # An electrical fault that the key-on monitors must see, and did not.
      def quiet(missed, presence)
        1 - (KEY_ON_SEEN * missed * (presence < 1.0 ? 0.5 : 1.0))
      end
    end
  end
end
