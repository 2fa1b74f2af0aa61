# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What may have gone wrong in the hand when a reading fits no suspect: the probe on another pin, a connector not
    # seated, a flat meter battery, a wrong range. Shown as a possible explanation, never counted as one.
    module RetestHints
      WRONG_PIN = 4.0 # so many times likelier at the other pins than at those asked for

      # observation: Observations::Observation whose reading is in doubt. Returns a sentence.
      def self.explain(observation)
        return "Inspect again with better light, or have a second person check." unless observation.test.numeric?

        other = other_pins(observation)
        return "This value is normal for '#{other.title}'. Check that the probes are on the right pins." if other

        plain(observation.result, observation.test)
      end

      # Another test of the same kind and place whose sound reading this one is.
      def self.other_pins(observation)
        model = observation.circuit.model
        mine = model.table(observation.test).normal_density(observation.result)
        rivals =
          model.tests.values.select do |test|
            test.kind == observation.test.kind && test.id != observation.test.id &&
              test.probes != observation.test.probes && test.probes.intersect?(observation.test.probes)
          end
        best = rivals.max_by { |test| model.table(test).normal_density(observation.result) }
        if best && model.table(best).normal_density(observation.result) > WRONG_PIN * [mine, 1e-6].max &&
             !observation.result.over_limit?
          best
        end
      end

      def self.plain(result, test)
        return "Unexpected OL: poor probe contact, connector not seated, wrong meter socket?" if result.over_limit?
        return "Unexpected zero: wrong range, flat meter battery, ground clip off?" if result.value.abs < 0.02

        if test.unit == "ohm"
          "Fingers touching both probes, or circuit still powered? Measure resistance with the power off."
        else
          "Different ground point, key position or load from the test?"
        end
      end
      private_class_method :other_pins, :plain
    end
  end
end
