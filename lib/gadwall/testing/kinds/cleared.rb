# frozen_string_literal: true

module Gadwall
  module Testing
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
          at_once, driving = predictor.returning(condition, fault)
          predictor.cached([test.id, at_once.round(3), driving.round(3)]) do
            left = 1 - at_once
            shown = {
              "at_once" => at_once,
              "driving" => left * driving,
              "good" => left * (1 - driving),
              "refused" => 0.0
            }
            Prediction::Choice.new(
              test.outcomes.to_h { |id, _| [id, MISREAD + ((1 - (MISREAD * test.outcomes.size)) * shown[id])] }
            )
          end
        end

        # As Kind#caught.
        def caught(predictor, test, fault)
          condition = Circuits::Effect.condition(predictor.harness, fault, fault.middle_severity)
          predict(predictor, test, condition, fault)
        end
      end
    end
  end
end
