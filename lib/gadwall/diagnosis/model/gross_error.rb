# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # A measurement gone wrong (probe on the wrong pin, meter battery) shows anything: the flat part of each likelihood.
    module GrossError
      # Density of the result if the measurement went wrong, on the scale of its test.
      def self.density(observation)
        test = observation.test
        return 1.0 / test.outcomes.size unless test.numeric?

        observation.circuit.model.predictor.scale(test).gross_error_density(observation.result)
      end

      # Share (0..1) of such measurements that go wrong. A look says itself how often each outcome is reported when it
      # is not so, and what is moved by hand how often it jumps for nothing.
      def self.share(test, catalogue)
        catalogue.model(test.behaviour.at_the_place? ? "gross_error_seen" : "gross_error")
      end
    end
  end
end
