# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # A lamp, a live value, a motor: what happens is watched (Watch).
      class Watched < Kind
        # As Kind#predict.
        def predict(predictor, test, condition, fault)
          predictor.watch.predict(test, felt(predictor, test, condition, fault), fault)
        end

        # As Kind#caught.
        def caught(predictor, test, fault)
          predictor.watch.caught(test, fault) if predictor.takes_part?(test, fault)
        end
      end
    end
  end
end
