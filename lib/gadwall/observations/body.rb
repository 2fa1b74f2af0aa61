# frozen_string_literal: true

module Gadwall
  module Observations
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
  end
end
