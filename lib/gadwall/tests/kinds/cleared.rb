# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # The codes of a circuit are cleared: they are back at once, back after driving, or stay away.
      class Cleared < Kind
        MISREAD = 0.01 # from memory: of each outcome that is not so

        # As Kind#over_time?: codes come back on the road.
        def over_time?
          true
        end

        # As Kind#predict: monitors that run at key on set their code at once, the others on the road.
        def predict(predictor, test, condition, fault)
          chances = predictor.returning(condition, fault).map { |chance| chance.round(3) }
          predictor.cached([test.id, chances]) do
            shown = shown(*chances)
            Prediction::Choice.new(
              test.outcomes.to_h { |id, _| [id, MISREAD + ((1 - (MISREAD * test.outcomes.size)) * shown[id])] }
            )
          end
        end

        NOT_CLEARED = 0.6 # from memory: of a module that does not answer; the others miss it again at once in the rest

        # As Kind#caught.
        def caught(predictor, test, fault)
          condition = Circuits::Effect.condition(predictor.harness, fault, fault.middle_severity)
          predict(predictor, test, condition, fault)
        end

        private

        # {outcome => chance}. A module without power is missed at once, or refuses.
        def shown(at_once, driving, silent)
          refused = NOT_CLEARED * silent
          back = [at_once * (1 - refused), silent - refused].max
          left = 1 - refused - back
          { "refused" => refused, "at_once" => back, "driving" => left * driving, "good" => left * (1 - driving) }
        end
      end
    end
  end
end
