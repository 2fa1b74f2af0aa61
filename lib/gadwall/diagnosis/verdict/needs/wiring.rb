# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Every wire and connector from the module up to the sensor's plug covered by a reading as it should be.
      class Wiring < Need
        TEXT = "Wiring between module and sensor proven"

        # As of Need.
        def met?(suspect)
          uncovered(suspect).empty?
        end

        # As of Need.
        def tests(suspect)
          [choice.covering(suspect.circuit, uncovered(suspect))].compact
        end

        private

        def uncovered(suspect)
          examined
            .wiring(suspect.circuit)
            .reject do |place|
              examined.clearing(suspect.circuit, place).any? { |each| !Examined::TALK.include?(each.test.kind) }
            end
        end
      end
    end
  end
end
