# frozen_string_literal: true

module Gadwall
  # What was seen, as core values. Items are frozen; their order does not matter to the diagnosis.
  module Observations
    # What may provoke a fault that comes and goes, and words for it.
    CONDITIONS = {
      "wiggled" => "harness wiggled",
      "wet" => "sprayed with water",
      "warm" => "heated",
      "cold" => "cold",
      "driving" => "driving",
      "steering_lock" => "at full lock"
    }.freeze

    # Is the fault there now? As the technician says, and words for it.
    PRESENCES = { "present" => "there now", "absent" => "gone", "fleeting" => "intermittent" }.freeze

    # When a lamp is lit, and words for it.
    LAMP_TIMES = {
      "at_key_on" => "at key on, and stays",
      "after_moving" => "after the first metres",
      "above_speed" => "above a certain speed",
      "now_and_then" => "now and then",
      "flashing" => "flashing",
      "never" => "never lights, not even at key on"
    }.freeze

    # A warning lamp or message. id: of data/vehicle/lamps; lit: is it, or stays it out; time: of LAMP_TIMES, or nil.
    Lamp = Struct.new(:seq, :id, :lit, :time, keyword_init: true)

    # A test done: circuit and test of the System, result a Quantity::Reading or the id of an outcome. seq: place in the
    # log;
    # caught: [times that this result was seen, tries], or nil for one; changed: places of its circuit that were put
    # right before it, or nil; condition: of CONDITIONS under which it was taken, or nil; presence: of PRESENCES, was
    # the fault there meanwhile, or nil.
    Observation =
      Struct.new(
        :seq,
        :circuit,
        :test,
        :result,
        :typed,
        :condition,
        :presence,
        :changed,
        :caught,
        keyword_init: true
      ) do
        # Full id of its test: "front_left.resistance.sensor_plug".
        def test_id
          "#{circuit.id}.#{test.id}"
        end

        # Was it taken while something provoked the fault?
        def provoked?
          !condition.nil?
        end

        # The place that a change before it has put right, so far: id within the circuit, or nil.
        def cures
          test.record["changes"] if result == "gone"
        end

        # The places that a change put right before it, as far as that can show in it: a look sees what it saw.
        def changed_before
          changed.nil? || test.behaviour.at_the_place? ? [] : changed
        end

        # All that its weight depends on, within its circuit.
        def weighed_by
          [test.id, result, provoked?, changed || [], caught].freeze
        end
      end

    # Stands in the place of a code's number where the tool prints only its text.
    NO_NUMBER = "no number"

    # A code that stood in a scan. status: of TroubleCodes::StatusByte::WORDS, or nil; claim: id of data/codes/claims,
    # or "lost_abs" for a module missed on a bus; sender: name of the module that sent it, where noted; about: id of the
    # module whose data it calls invalid, or nil; known: does the catalogue know the code?
    CodeSeen =
      Struct.new(
        :seq,
        :code,
        :failure_type,
        :status,
        :circuit_id,
        :claim,
        :text,
        :sender,
        :about,
        :known,
        keyword_init: true
      ) do
        # Does it stand, now or in memory? A record that was not tested, or passed its test, is no code.
        def set?
          !%w[not_tested passed].include?(status)
        end

        # As it is called in a sentence: its number, or its text where the tool prints none.
        def label
          code == NO_NUMBER ? "'#{text}'" : word
        end

        # "C0031-13", or "C0031" without a failure type.
        def word
          [code, failure_type].compact.join("-")
        end
      end

    # A scan of the vehicle before the repair. answered: {module id => did it answer}, of those that were noted; true or
    # false alone speaks of the anti-lock module. responded, expected: how many modules in all did, and should by the
    # build list or an earlier scan; nil where nobody counted.
    Scan =
      Struct.new(:seq, :answered, :codes, :responded, :expected, keyword_init: true) do
        # How many modules are missing that nobody has named; 0 where nobody counted.
        def unnamed_missing
          return 0 unless responded && expected

          [expected - responded - modules.values.count(false), 0].max
        end

        # {module id => did it answer}.
        def modules
          answered.is_a?(Hash) ? answered : { "abs" => answered }.compact
        end

        # true, false, or nil where it was not noted.
        def answers(module_id)
          modules[module_id]
        end

        # Would a code of this module stand in the scan? Not when it did not answer, nor when others were asked and it
        # was not. What hangs on a bus (no module of its own) is told by whoever answers.
        def asked?(module_id)
          return true if module_id.nil? || modules.empty?

          modules.fetch(module_id, false)
        end
      end

    # Something said or noticed that shifts what is likely; id of data/codes/symptoms.
    Symptom = Struct.new(:seq, :id, keyword_init: true)

    # observations, scans, symptoms: Arrays of the above; open_access: keys of places already reached;
    # closed_case_counts: the shop's closed cases, {template id => {fault id => count}}, {} where they are not counted;
    # lamps: Array of Lamp, each once; presence: of PRESENCES, what was said last, or nil; triage: ids of
    # Decision::Triage, why the vehicle must not be driven, as said at intake.
    Body =
      Struct.new(
        :observations,
        :scans,
        :symptoms,
        :open_access,
        :closed_case_counts,
        :lamps,
        :presence,
        :triage,
        keyword_init: true
      ) do
        def initialize(
          observations: [],
          scans: [],
          symptoms: [],
          open_access: [],
          closed_case_counts: {},
          lamps: [],
          presence: nil,
          triage: []
        )
          super
        end

        # A Body with nothing in it.
        def self.empty
          new
        end

        # The chance (0..1) that a warning is there just now, whichever circuit is sound.
        def warned
          Warning.chance(self)
        end

        # The same with one more Observation. Returns a frozen copy.
        def with(observation)
          dup.tap do |copy|
            copy.observations = Changes.told(observations + [observation])
            copy.open_access = open_access | Access.keys_of(observation)
          end
        end
      end

    # What was changed on the vehicle stays changed: a cleaned connector, a bypassed run, a part on trial. Readings
    # taken after it are held to the vehicle as it is then.
    module Changes
      # observations: Array of Observation. Returns them in the order of the log, each with the places of its circuit
      # that were put right before it (changed), and the fault's absence where that was seen (presence).
      def self.told(observations)
        right = Hash.new { |known, id| known[id] = [] }
        in_order(observations).map do |each|
          known = right[each.circuit.id]
          told = known.empty? ? each : with(each, known)
          note(each, known)
          told
        end
      end

      # {circuit id => places that a change has put right by now}, of observations as `told` gives them; [] for others.
      def self.right_now(observations)
        right = Hash.new { |known, id| known[id] = [] }
        in_order(observations).each { |each| note(each, right[each.circuit.id]) }
        right
      end

      # Looks at a shared connector have one place in the log.
      def self.in_order(observations)
        observations.each_with_index.sort_by { |each, i| [each.seq, i] }.map(&:first)
      end

      def self.with(observation, places)
        observation.dup.tap do |copy|
          copy.changed = places.dup.freeze
          copy.presence ||= "absent"
          copy.freeze
        end
      end

      # What went with the change is put right; what came back is not. Where the warning was out before and after, it
      # stays as it is.
      def self.note(observation, known)
        place = observation.test.record["changes"]
        return if place.nil? || observation.result == "good"

        known.delete(place)
        known << place if observation.cures
      end
      private_class_method :with, :note, :in_order
    end

    # What a test leaves reached, for the next one.
    module Access
      # Keys of what must be opened for an observation's test: ["front_left/wheel_off", ...].
      def self.keys_of(observation)
        observation.test.access.map { |key, _| key_for(observation.circuit.id, key) } -
          [key_for(observation.circuit.id, "drive")]
      end

      # A joint, a wheel or a bulb belongs to its circuit; a module plug, a road to the vehicle.
      def self.key_for(circuit_id, key)
        key.start_with?("joint:") || %w[wheel_off bulb].include?(key) ? "#{circuit_id}/#{key}" : key
      end
    end
  end
end
