# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # The feed of the pump that builds its pressure carries its current.
      class PumpFeed < Need
        TEXT = "Pump motor feed proven while it runs"
        FEED_TESTS = %w[feed_running bulb_pump].freeze # of data/tests/pump.yml; at the connector nearest the battery

        # As of Need.
        def met?(suspect)
          pumps_of(suspect).any? { |pump| examined.shown_sound?(pump, *FEED_TESTS) }
        end

        # As of Need.
        def tests(suspect)
          pumps_of(suspect).filter_map do |pump|
            choice.best(pump) { |test| FEED_TESTS.include?(test.id.split(".").first) }
          end
        end

        private

        # Circuits of pumps that hang on the same module.
        def pumps_of(suspect)
          examined.system.circuits.select do |circuit|
            circuit.family == "pump" && circuit.module == suspect.circuit.module
          end
        end
      end
    end
  end
end
