# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # Something is changed and the warning looked at before and after: a connector cleaned, a run bypassed, a part
      # swapped. `removes` of the record says which faults the change takes away, and how surely.
      class Compared < Kind
        CAME_BACK = 0.15 # from memory: of faults that went with the change, so many came back when moved
        BY_ITSELF = 0.06 # from memory: a warning goes out by itself just then
        NO_WARNING = 0.96 # of a sound circuit: no warning before, none after; from memory

        # As Kind#looks_at_warnings?
        def looks_at_warnings?
          true
        end

        # As Kind#predict: what no monitor sees lights no warning, before or after; but another circuit's fault may
        # (test.warned), and that warning stays.
        def predict(predictor, test, condition, fault)
          visible = told(predictor.visible(condition, fault), test.warned)
          removed = fault ? removed(test, fault) : 0.0
          predictor.cached([test.id, visible.round(3), removed, test.warned]) { choice(test, visible, removed) }
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

        OTHER = 0.05 # from memory: that two circuits light a warning at once

        # The chance that it is this fault's warning, where there is one with the chance `warned`.
        def told(visible, warned)
          from_here = visible.positive? ? visible / (visible + ((1 - visible) * OTHER)) : 0.0
          (warned * from_here) + ((1 - warned) * visible)
        end

        def choice(test, visible, removed)
          own = seen(removed)
          others = seen(0.0)
          Prediction::Choice.new(
            test.outcomes.to_h do |id, _|
              quiet = (test.warned * others[id]) + ((1 - test.warned) * QUIET[id])
              [id, (visible * own[id]) + ((1 - visible) * quiet)]
            end
          )
        end

        UNSEEN = (1 - NO_WARNING) / 3
        QUIET = { "gone" => UNSEEN, "back" => UNSEEN, "same" => UNSEEN, "good" => NO_WARNING }.freeze

        # What becomes of a warning that is there.
        def seen(removed)
          gone = removed + ((1 - removed) * BY_ITSELF)
          { "gone" => gone * (1 - CAME_BACK), "back" => gone * CAME_BACK, "same" => 1 - gone, "good" => 0.0 }
        end
      end
    end
  end
end
