# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # What all kinds answer. Behaviours hold no state: what they work on is handed to them.
      class Kind
        # "ohm", "V" or "A"; nil for what is seen.
        def unit
          nil
        end

        # Is a figure read?
        def numeric?
          !unit.nil?
        end

        # Does it look at a place as it is, or move it, so that it meets what is there whenever it is done?
        def at_the_place?
          false
        end

        # Does moving something bring out a fault that comes and goes?
        def moves_something?
          false
        end

        # Does it look whether a warning goes, whoever lights it?
        def looks_at_warnings?
          false
        end

        # Does it look back on some time, so that it does not matter whether the fault is there at this moment?
        def over_time?
          false
        end

        # predictor: Predictor; test: Test; condition: Circuits::Condition; fault: Circuits::Fault or nil, for looks at
        # a place. Returns a Prediction::Number or ::Choice.
        def predict(_predictor, _test, _condition, _fault)
          raise NotImplementedError, self.class.name
        end

        # What shows when a fault that comes and goes is met; nil where it takes no part.
        def caught(predictor, test, fault)
          Category.prediction(predictor, test, "dropouts") if predictor.takes_part?(test, fault)
        end

        private

        # The condition, or a sound harness where the test has put something sound in the fault's place.
        def felt(predictor, test, condition, fault)
          predictor.takes_part?(test, fault) ? condition : Circuits::Condition::SOUND
        end
      end
    end
  end
end
