# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Where a sensor is accused of its pulses: the tone ring inspected, and the encoder's side of the bearing where it
      # may be the wrong one.
      class Ring < Need
        TEXT = "Tone ring or encoder inspected"
        PULSES = %w[stuck weak].freeze # of a sensor: no pulses, or weak ones, which a bad ring gives too
        BEARING_FROM = 0.01 # from memory: from here its encoder's side is looked at before a sensor is condemned

        # As of Need.
        def met?(suspect)
          return true unless PULSES.include?(suspect.fault.mode)

          ring_cleared?(suspect) && examined.posterior.chance_at(suspect.circuit.id, "bearing") < BEARING_FROM
        end

        # As of Need.
        def tests(suspect)
          circuit = suspect.circuit
          return ["#{circuit.id}.look_ring"] unless ring_cleared?(suspect)

          [choice.best(circuit) { |test| test.place == "bearing" && choice.telling?(circuit, test) }].compact
        end

        private

        def ring_cleared?(suspect)
          examined.coverage.cleared?(suspect.circuit.id, "ring")
        end
      end
    end
  end
end
