# frozen_string_literal: true

module Gadwall
  module Circuits
    # What the pulses look like at some pins while the wheel turns: even, one_gap, uneven, ratio, weak, none.
    # The wiring decides whether enough of the signal arrives; ring and sensor decide its shape.
    class WheelSignal
      CATEGORIES = %w[even one_gap uneven ratio weak none dropouts].freeze
      MARGIN = 1.05 # a level within 5 percent of the threshold is lost at times

      def initialize(harness)
        @harness = harness
        @rule = harness.template["signal"]
        @state = state_of(@rule["state"])
      end

      # At the module, as its software sees it.
      def at_module(condition)
        return "none" if condition.deaf

        at(condition, @rule["probes"], @state)
      end

      # At a pair of probes in a state, as a scope sees it.
      def at(condition, probes, state)
        @rule["kind"] == "two_level" ? two_level(condition, probes, state) : alternating(condition, probes, state)
      end

      # Lets go of the solved networks.
      def rest
        @readers = nil
      end

      private

      def state_of(spec)
        Harness::State.of(**spec.transform_keys(&:to_sym))
      end

      def alternating(condition, probes, state)
        reader = reader(state)
        sound = reader.read("volts", probes, Condition::SOUND).abs
        ratio = reader.read("volts", probes, condition).abs / sound
        return "none" if ratio < @harness.values.fetch("lost_ratio")

        ratio < @harness.values.fetch("weak_ratio") ? "weak" : condition.pattern
      end

      # Two levels must lie on either side of the module's threshold.
      def two_level(condition, probes, state)
        return "none" if condition.amplitude.zero?

        low, high = @harness.sink_levels.map { |ampere| reader(state).read("volts", probes, condition, ampere: ampere) }
        threshold = @harness.values.fetch("threshold_volt")
        return "none" unless low < threshold && high > threshold

        tight = high < threshold * MARGIN || low > threshold / MARGIN || condition.amplitude < 1.0
        tight ? "weak" : condition.pattern
      end

      def reader(state)
        @readers ||= {}.compare_by_identity
        @readers[state] ||= Reader.new(@harness, state)
      end
    end
  end
end
