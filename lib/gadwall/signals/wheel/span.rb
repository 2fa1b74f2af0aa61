# frozen_string_literal: true

module Gadwall
  module Signals
    # From where to where a wheel-speed signal goes, rare spikes apart: from the fifth to the ninety-fifth of a hundred
    # samples. Where a sensor sends narrow pulses (one that tells the direction does), both lie on its rest; then the
    # pulses count, as long as they come as evenly as teeth do.
    class Span
      LEAST_PULSES = 12
      EVEN_WITHIN = 1.3 # times longer or shorter than the way to the pulse before
      EVEN_SHARE = 0.7 # of the ways
      PULSE_SIGMAS = 12.0 # that a pulse stands out from the rest
      SAMPLED = 4000 # values, spread over the capture

      # Volts (or what the channel is in): the lower level, the upper one.
      attr_reader :low, :high

      # values: Array of Float; noise: sigma.
      def initialize(values, noise)
        @values = values
        sorted = (0...values.size).step([values.size / SAMPLED, 1].max).map { |i| values[i] }.sort
        @low = sorted[(sorted.size * 0.05).to_i]
        @high = sorted[(sorted.size * 0.95).to_i.clamp(0, sorted.size - 1)]
        reach_to_pulses(sorted[sorted.size / 2], PULSE_SIGMAS * noise)
      end

      # In the unit of the signal.
      def width
        high - low
      end

      private

      def reach_to_pulses(rest, least)
        return if least.zero? || width > least

        [1, -1].each do |side|
          tops = tops(rest, side, least)
          next unless tops.size >= LEAST_PULSES && even?(tops.map(&:first))

          top = Quantity::Statistics.median(tops.map(&:last))
          @low, @high = [rest, rest + (side * top)].minmax
        end
      end

      # [[index, height], ...] of what rises over the rest on one side.
      def tops(rest, side, least)
        found = []
        last = nil
        @values.each_with_index do |value, i|
          height = side * (value - rest)
          next if height < least

          if last == i - 1
            found.last[1] = height if height > found.last[1]
          else
            found << [i, height]
          end
          last = i
        end
        found
      end

      def even?(at)
        ways = at.each_cons(2).map { |a, b| b - a }
        pairs = ways.each_cons(2).to_a
        pairs.count { |a, b| a.fdiv(b).between?(1 / EVEN_WITHIN, EVEN_WITHIN) } >= EVEN_SHARE * pairs.size
      end
    end
  end
end
