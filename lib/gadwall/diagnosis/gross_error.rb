# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # A measurement gone wrong (probe on the wrong pin, meter battery) shows anything: the flat part of each likelihood.
    module GrossError
      # Density of the result if the measurement was gross_error, on the scale of its test.
      def self.density(observation)
        test = observation.test
        return 1.0 / test.outcomes.size unless test.numeric?

        observation.circuit.model.predictor.scale(test).gross_error_density(observation.result)
      end
    end
  end
end
