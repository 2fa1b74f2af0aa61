# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # The pulses of a turning wheel, by scope or as the module sees them.
      class Signal < Kind
        # As Kind#predict.
        def predict(predictor, test, condition, fault)
          felt = felt(predictor, test, condition, fault)
          Category.prediction(predictor, test, seen(predictor.signal, test, felt))
        end

        # The category of the pulses where the test looks.
        # signal: Circuits::WheelSignal; condition: Circuits::Condition.
        def seen(signal, test, condition)
          case test.record["at"]
          when "connector"
            signal.at(condition, test.probes, test.state)
          when "module_pins"
            signal.at_module(condition.with_hearing)
          else
            signal.at_module(condition)
          end
        end
      end
    end
  end
end
