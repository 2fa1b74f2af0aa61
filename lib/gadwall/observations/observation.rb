# frozen_string_literal: true

module Gadwall
  module Observations
    # A test done: circuit and test of the System, result a Quantity::Reading or the id of an outcome. seq: place in the
    # log; caught: [times that this result was seen, tries], or nil for one; changed: places of its circuit that were
    # put right before it, or nil; condition: of CONDITIONS under which it was taken, or nil; presence: of PRESENCES,
    # was the fault there meanwhile, or nil.
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
  end
end
