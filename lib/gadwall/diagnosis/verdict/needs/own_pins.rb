# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # A sensor that is accused of an open or shorted circuit is measured at its own pins, with its connector
      # disconnected, or another one put in its place, before it is condemned: a live value that fails tells nothing of
      # where.
      class OwnPins < Need
        TEXT = "Sensor measured at its own pins"

        # As of Need.
        def met?(suspect)
          return true if Ring::PULSES.include?(suspect.fault.mode)

          own = own_tests(suspect.circuit)
          done = examined.of(suspect.circuit).select { |each| own.include?(each.test.id) }
          (done.any? && !tried_once?(suspect, done)) || told_beyond_cleared?(suspect)
        end

        # As of Need.
        def tests(suspect)
          own = own_tests(suspect.circuit)
          [choice.best(suspect.circuit) { |test| own.include?(test.id) }].compact
        end

        private

        # Was a known-good sensor connected, once, and does nothing else say that the wiring up to it is good? What
        # works once with another sensor may have been moved by the hand that connected it (common practice: there and
        # back).
        def tried_once?(suspect, done)
          return false unless done.one? && in_its_place?(done.first.test)

          examined
            .wiring(suspect.circuit)
            .any? { |place| examined.clearing(suspect.circuit, place).all? { |each| each.equal?(done.first) } }
        end

        # Does a test put a good sensor in its place, with the vehicle's own wiring?
        def in_its_place?(test)
          without = test.record["without"] || []
          without.include?("sensor") && !without.include?("harness")
        end

        # Did a reading accuse nothing but the sensor's end, all else that it covers being cleared by others? A sensor
        # that draws nothing where feed and return are there at its connector has been measured.
        def told_beyond_cleared?(suspect)
          beyond = examined.end_places(suspect.circuit)
          examined
            .accusing(suspect)
            .select { |each| each.test.numeric? }
            .any? do |each|
              cleared = examined.cleared_places(suspect, but: each)
              (examined.coverage.places(suspect.circuit, each.test) - cleared - beyond).empty?
            end
        end

        # Ids of the tests that show nothing but the sensor, its connector and what turns before it; or that replace it.
        def own_tests(circuit)
          (@own_tests ||= {})[circuit.id] ||= circuit
            .model
            .tests
            .values
            .select { |test| in_its_place?(test) || shows_the_end_alone?(circuit, test) }
            .map(&:id)
        end

        def shows_the_end_alone?(circuit, test)
          return false unless test.numeric?

          places = examined.coverage.places(circuit, test)
          places.any? && (places - examined.end_places(circuit)).empty?
        end
      end
    end
  end
end
