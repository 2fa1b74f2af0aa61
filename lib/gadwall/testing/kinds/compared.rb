# frozen_string_literal: true

module Gadwall
  module Testing
    module Kinds
      # Something is changed and the warning looked at before and after: a connector cleaned, a run bypassed, a part
      # swapped. `removes` of the record says which faults the change takes away, and how surely.
      class Compared < Kind
        CAME_BACK = 0.15 # from memory: of faults that went with the change, so many came back when moved
        BY_ITSELF = 0.06 # from memory: a warning goes out by itself just then
        NO_WARNING = 0.96 # of a sound circuit: no warning before, none after; from memory

        # As Kind#predict: what no monitor sees lights no warning, before or after.
        def predict(predictor, test, condition, fault)
          visible = predictor.visible(condition, fault)
          removed = fault ? removed(test, fault) : 0.0
          predictor.cached([test.id, visible.round(3), removed]) { choice(test, visible, removed) }
        end

        # As Kind#caught.
        def caught(predictor, test, fault)
          condition = Circuits::Effect.condition(predictor.harness, fault, fault.middle_severity)
          predict(predictor, test, condition, fault)
        end

        private

        def removed(test, fault)
          test.record["removes"].find { |row| fault.named?(row["fault"]) }&.fetch("chance") || 0.0
        end

        def choice(test, visible, removed)
          gone = removed + ((1 - removed) * BY_ITSELF)
          seen = { "gone" => gone * (1 - CAME_BACK), "back" => gone * CAME_BACK, "same" => 1 - gone, "good" => 0.0 }
          unseen = (1 - NO_WARNING) / 3
          quiet = { "gone" => unseen, "back" => unseen, "same" => unseen, "good" => NO_WARNING }
          Prediction::Choice.new(
            test.outcomes.to_h { |id, _| [id, (visible * seen[id]) + ((1 - visible) * quiet[id])] }
          )
        end
      end
    end
  end
end
