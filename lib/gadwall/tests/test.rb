# frozen_string_literal: true

module Gadwall
  module Tests
    # One test on one harness, ready to be told to a technician. Ids are relative to the circuit; System adds its name.
    #
    # kind: "ohms", "volts", "amperes" (a number is read), "signal", "watch", "table", "wiggle" (one of `outcomes` is
    # seen).
    # access: [[key, minutes], ...], each paid once; place: where a look or a wiggle happens; load: what the circuit can
    # bear in the place of a part, in words, or nil; warned: the chance (0..1) that a warning is there in which the
    # circuit has no part, for a test that looks whether one goes.
    Test =
      Struct.new(
        :id,
        :title,
        :kind,
        :state,
        :probes,
        :where,
        :access,
        :closes,
        :minutes,
        :invasive,
        :cautions,
        :place,
        :outcomes,
        :record,
        :source,
        :load,
        :warned,
        keyword_init: true
      ) do
        # behaviour: how its kind behaves, Kinds::Kind; unit: "ohm", "V" or "A", nil for what is seen.
        attr_reader :behaviour, :unit

        def initialize(kind:, warned: 0.0, **)
          super
          @behaviour = Kinds.of(kind)
          @unit = @behaviour.unit
          @numeric = @behaviour.numeric?
        end

        # Is a figure read?
        def numeric?
          @numeric
        end

        # The same test on a vehicle with such a warning; itself where it does not look at warnings. chance: 0..1.
        def when_warned(chance)
          return self unless behaviour.looks_at_warnings? && chance.positive?

          dup.tap { |copy| copy.warned = chance }.freeze
        end

        # What it asks for before the hands move, in words: ["test bulb (H7)", "a helper", "key on, engine off"].
        def needs
          Needs.of(self)
        end

        # Does it erase, calibrate or open something, so that other tests come first?
        def last?
          record["last"] || false
        end

        # May it be offered to a hand? template: record of data/circuits of its circuit.
        def offered?(template)
          record["offered"] != false && !(record["unless_opened"] && template["part_opens"]) &&
            !(record["not_for"] || []).include?(template["id"])
        end

        # Does it ask for power in the circuit? Ohms and looks do not.
        def powered?
          kind != "ohms" && !behaviour.at_the_place?
        end

        # Is the vehicle driven for it?
        def drives?
          record["drives"] || access.any? { |key, _| key == "drive" }
        end

        # A test that watches for a while, and so can catch a fault that comes and goes.
        def window?
          record["window"] || false
        end
      end
  end
end
