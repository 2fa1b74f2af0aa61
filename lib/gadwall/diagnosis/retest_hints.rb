# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What may have gone wrong in the hand when a reading fits no suspect: the probe on another pin, a plug not home, a
    # meter that is flat or on the wrong range. Told as an explanation, never taken for one.
    module RetestHints
      WRONG_PIN = 4.0 # so many times likelier at the other pins than at those asked for

      # observation: Evidence::Observation whose reading is in doubt. Returns a sentence.
      def self.explain(observation)
        return "Look again, in other light or with another pair of eyes." unless observation.test.numeric?

        other = other_pins(observation)
        return "It is what '#{other.title}' shows on a sound line: probes on the wrong pins?" if other

        plain(observation.result, observation.test)
      end

      # Another test of the same kind and place whose sound reading this one is.
      def self.other_pins(observation)
        model = observation.circuit.model
        mine = model.table(observation.test).normal_density(observation.result)
        rivals =
          model.tests.values.select do |test|
            test.kind == observation.test.kind && test.id != observation.test.id &&
              test.probes != observation.test.probes && (test.probes & observation.test.probes).any?
          end
        best = rivals.max_by { |test| model.table(test).normal_density(observation.result) }
        if best && model.table(best).normal_density(observation.result) > WRONG_PIN * [mine, 1e-6].max &&
             !observation.result.over_limit?
          best
        end
      end

      def self.plain(result, test)
        if result.over_limit?
          return "Over limit without a reason: a probe that does not touch, a plug not pushed home, a blown meter fuse?"
        end
        if result.value.abs < 0.02
          return "Nothing where something should be: meter on the wrong range, its battery flat, its ground clip off?"
        end

        if test.unit == "ohm"
          "Fingers on both probes, or the circuit still fed? An ohmmeter wants it dead."
        else
          "Another ground point, key position or load than the test asks for?"
        end
      end
      private_class_method :other_pins, :plain
    end
  end
end
