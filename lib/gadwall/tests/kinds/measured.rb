# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # A figure is read at two points.
      class Measured < Kind
        # common practice: sound pins and ground points differ by a factor, and with them a drop of some tenths of a
        # volt
        DROP_SCATTER = 0.4

        # As Kind#predict.
        def predict(predictor, test, condition, fault)
          predictor.number(test, felt(predictor, test, condition, fault))
        end

        # Is what stands behind the probes so weak that the meter shows a ghost? source_ohm: between the probes.
        def ghost?(_source_ohm)
          false
        end

        # One sigma for such a ghost, in the bare unit.
        def ghost(_source_ohm, _value)
          0.0
        end

        # The least sigma on the test's scale.
        def least(_value)
          0.0
        end

        # Is it read with the sources off?
        def sources_off?
          false
        end

        # One sigma from meter, leads and hand, in the bare unit. meter: Quantity::Meter; scatter: share by which sound
        # vehicles differ; lead_ohm: of meter leads and probes.
        def hand(test, value, meter, scatter, lead_ohm)
          scatter = DROP_SCATTER if test.record["drop"]
          Math.sqrt((meter.sigma(value)**2) + (contact(test, lead_ohm)**2) + ((scatter * value)**2))
        end
      end
    end
  end
end
