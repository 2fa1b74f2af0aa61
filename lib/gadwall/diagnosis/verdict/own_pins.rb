# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # A sensor that is accused of an open or shorted circuit is measured at its own pins before it is condemned: a live
    # value that fails tells nothing of where. Part of Gates, which has the readings.
    module OwnPins
      private

      BEARING_FROM = 0.01 # from memory: from here its encoder's side is looked at before a sensor is condemned

      # May the bearing carry its encoder on the wrong side, as far as is known?
      def bearing_feared?(circuit)
        @posterior.chance_at(circuit.id, "bearing") >= BEARING_FROM
      end

      # An open or shorted sensor shows at its own pins, with its connector disconnected, or goes with a known-good one.
      def own_pins_measured?(suspect)
        return true if Gates::PULSES.include?(suspect.fault.mode)

        own = own_pin_tests(suspect.circuit)
        done = @body.observations.select { |each| each.circuit.id == suspect.circuit.id && own.include?(each.test.id) }
        (done.any? && !tried_once?(suspect, done)) || told_beyond_cleared?(suspect)
      end

      # Was a known-good sensor connected, once, and does nothing else say that the wiring up to it is good? What works
      # once with another sensor may have been moved by the hand that connected it (common practice: there and back).
      def tried_once?(suspect, done)
        return false unless done.one? && in_its_place?(done.first.test)

        wiring(suspect.circuit).any? do |place|
          @coverage.clearing(suspect.circuit.id, place).all? { |each| each.equal?(done.first) }
        end
      end

      # Does a test put a good sensor in its place, with the vehicle's own wiring?
      def in_its_place?(test)
        without = test.record["without"] || []
        without.include?("sensor") && !without.include?("harness")
      end

      # Did a reading accuse nothing but the sensor's end, all else that it covers being cleared by others? A sensor
      # that draws nothing where feed and return are there at its connector has been measured.
      def told_beyond_cleared?(suspect)
        end_places = beyond(suspect.circuit)
        accusing(suspect).any? do |each|
          next false unless each.test.numeric?

          (@coverage.places(suspect.circuit, each.test) - cleared_places(suspect, but: each) - end_places).empty?
        end
      end

      # Places at the end of a circuit: the sensor, its connector, what turns before it.
      def beyond(circuit)
        harness = circuit.harness
        [harness.template["far_end"]["id"], harness.connectors.last&.id, *harness.extras.map { |each| each["id"] }]
      end

      # Was anything read or tried at the part's own connector? Data of the scan tool alone show the whole circuit.
      def tested_at_plug?(suspect)
        plug = suspect.circuit.harness.connectors.last or return true
        @body.observations.any? { |each| each.circuit.id == suspect.circuit.id && at_connector?(each.test, plug) }
      end

      # Does a test reach for this connector?
      def at_connector?(test, connector)
        test.access.any? { |key, _| key.split(":").last == connector.id }
      end

      # Ids of the tests that show nothing but the sensor, its connector and what turns before it; or that replace it.
      def own_pin_tests(circuit)
        (@own_pin_tests ||= {})[circuit.id] ||= find_own_pin_tests(circuit)
      end

      def find_own_pin_tests(circuit)
        end_places = beyond(circuit)
        circuit
          .model
          .tests
          .values
          .select do |test|
            in_its_place?(test) ||
              (test.numeric? && (places = @coverage.places(circuit, test)).any? && (places - end_places).empty?)
          end
          .map(&:id)
      end
    end
  end
end
