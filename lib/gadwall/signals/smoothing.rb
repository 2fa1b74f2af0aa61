# frozen_string_literal: true

module Gadwall
  module Signals
    # Running means, and how noisy what they leave still is.
    module Smoothing
      # Mean of each value and those around it. width: how many together.
      def self.mean(values, width)
        return values if width < 2

        sums = [0.0]
        values.each { |value| sums << (sums.last + value) }
        values.each_index.map do |i|
          from = [i - (width / 2), 0].max
          upto = [from + width, values.size].min
          (sums[upto] - sums[from]) / (upto - from)
        end
      end

      # How many samples lie in so many seconds, one at least.
      def self.width(seconds, duration_s, samples)
        step = duration_s / [samples - 1, 1].max
        step.positive? ? (seconds / step).round.clamp(1, samples) : 1
      end

      # Sigma, from the median of second differences over so many samples (a curve that is sampled closely hardly has
      # any). Noise has as much of them over two samples as over one; a signal has more. most: of them that are looked
      # at, spread over the values.
      def self.noise(values, lag: 1, most: Float::INFINITY)
        apart =
          (lag...(values.size - lag))
            .step([values.size / most, 1].max)
            .map { |i| (values[i - lag] - (2 * values[i]) + values[i + lag]).abs }
        apart.empty? ? 0.0 : Quantity::Statistics.median(apart) / (0.6745 * Math.sqrt(6))
      end
    end
  end
end
