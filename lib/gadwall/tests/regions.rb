# frozen_string_literal: true

module Gadwall
  module Tests
    # The outcomes of a number test, cut where predictions differ: what a sound circuit shows is one region; around it
    # decades of ohms, or steps of volts. Over limit is a region of its own.
    class Regions
      GOOD_SIGMAS = 3.3
      OHM_STEPS = [3.0, 30.0, 300.0, 3.0e3, 3.0e4, 3.0e5, 3.0e6].freeze
      SHARES = [0.05, 0.3, 0.6].freeze
      SUPPLY_VOLT = 8.0
      LEAST = 1e-9

      attr_reader :edges, :scale

      # good: Prediction::Number of the sound circuit; scale: Scale.
      def initialize(good, scale)
        @scale = scale
        @bands = good.humps.map { |mean, sigma, _| [mean - (GOOD_SIGMAS * sigma), mean + (GOOD_SIGMAS * sigma)] }
        @over_limit_good =
          scale.over_limit? && good.humps.all? { |mean, sigma, _| scale.over_limit_chance(mean, sigma) > 0.5 }
        @edges =
          (@over_limit_good ? steps : outside(steps) + @bands.flatten)
            .select { |edge| edge > scale.zero + LEAST }
            .uniq
            .sort
            .freeze
      end

      # How many regions there are, over limit included.
      def count
        edges.size + 1 + (scale.over_limit? ? 1 : 0)
      end

      # Which region a reading falls in.
      def index(reading)
        return count - 1 if reading.over_limit?

        y = scale.of(reading.value)
        edges.index { |edge| y < edge } || edges.size
      end

      # Is this region what a sound circuit shows?
      def good?(index)
        return index == count - 1 if @over_limit_good
        return false if index > edges.size

        low = index.zero? ? scale.zero : edges[index - 1]
        high = edges[index] || Float::INFINITY
        @bands.any? { |from, to| low >= from - LEAST && high <= to + LEAST }
      end

      # Adds a hump's share of each region to `chances`.
      def share(mean, sigma, weight, chances)
        over = scale.over_limit_chance(mean, sigma)
        chances[-1] += weight * over if scale.over_limit?
        below = 0.0
        edges.each_with_index do |edge, i|
          upto = 0.5 * Math.erfc((mean - edge) / (sigma * 1.4142135623730951))
          chances[i] += weight * (1 - over) * (upto - below)
          below = upto
        end
        chances[edges.size] += weight * (1 - over) * (1 - below)
      end

      # "OL", "below 620 ohm", "620 ohm to 2 kohm", "above 30 kohm".
      def label(index)
        return "OL" if scale.over_limit? && index == count - 1

        low = index.zero? ? nil : text(edges[index - 1])
        high = index < edges.size ? text(edges[index]) : nil
        return "below #{high}" if low.nil? || low.start_with?("0 ")
        return "above #{low}" unless high

        "#{low} to #{high}"
      end

      private

      def steps
        return OHM_STEPS.map { |ohm| scale.of(ohm) } if scale.unit == "ohm"

        top = scale.back(@bands.flatten.max_by(&:abs)).abs
        values = SHARES.map { |share| top * share } + (scale.unit == "V" ? [0.3, SUPPLY_VOLT] : [0.001, 0.02])
        values.select(&:positive?).map { |value| scale.of(value) }
      end

      # Steps that stand clear of the sound bands: a sliver of a region tells nobody anything.
      def outside(steps)
        margin = scale.unit == "ohm" ? 0.3 : 0.05 * @bands.flatten.map(&:abs).max
        clear = steps.sort.reject { |step| @bands.any? { |low, high| step.between?(low - margin, high + margin) } }
        clear.each_with_object([]) { |step, kept| kept << step if kept.empty? || step - kept.last > margin }
      end

      def text(edge)
        Quantity::SIFormat.call(scale.back(edge), scale.unit, digits: 2)
      end
    end
  end
end
