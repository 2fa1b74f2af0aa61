# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Readings that leave every other place of the circuit below one in a hundred.
      class Separate < Need
        TEXT = "Readings on both sides that leave no other location"
        RIVAL_FROM = 0.01

        # As of Need.
        def met?(suspect)
          rivals(suspect).empty?
        end

        # As of Need.
        def tests(suspect)
          circuit = suspect.circuit
          [choice.best(circuit) { |test| test.invasive.zero? && choice.telling?(circuit, test) }].compact
        end

        private

        # Other places of its circuit that are still to be feared: names.
        def rivals(suspect)
          alike = examined.posterior.bodies.alike(suspect.place)
          examined
            .posterior
            .places_of(suspect.circuit.id)
            .select { |place, p| !alike.include?(place) && !place.start_with?("shared/") && p >= RIVAL_FROM }
            .keys
        end
      end
    end
  end
end
