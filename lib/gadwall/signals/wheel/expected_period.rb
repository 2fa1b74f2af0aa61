# frozen_string_literal: true

module Gadwall
  module Signals
    # How long a period and the two beside it should be, judging by those a little further away on either side: an even
    # parabola through their pairs (least squares; handbook: regression, from memory). Pairs, so that steady
    # acceleration cancels out; a parabola, so that a hand that slows the wheel once a turn, always at the same place,
    # does not look like a gap there.
    module ExpectedPeriod
      BESIDE = [2, 3, 4, 5].freeze # periods away
      SQUARES = BESIDE.map { |k| k**2 }.freeze
      NEAR = 2 # pairs, without which nothing can be said
      ODD_FROM = 1.4 # times the shortest of the near ones: a gap among them
      ODD_PAIR_FROM = 1.17 # times the shortest pair: a gap in one; a hand bends them less
      HUMP_FROM = 1.1 # times the furthest pair

      # periods: Array of Float, seconds. Returns [seconds in the middle, seconds beside it], or nil where those around
      # tell nothing.
      def self.at(periods, i)
        pairs = BESIDE.map { |k| [periods[i - k], periods[i + k]] if i >= k && i + k < periods.size }
        near = pairs.first(NEAR).flatten
        return if near.any?(&:nil?) || near.max >= ODD_FROM * near.min

        means = pairs.map { |pair| pair && (pair.sum / 2) }
        return parabola(means.first(NEAR), SQUARES.first(NEAR)) if means.all? && hump?(means)
        return parabola(means, SQUARES) if means.all? && means.max < ODD_PAIR_FROM * means.min

        [means.first(NEAR).sum / NEAR] * 2
      end

      # Do they fall away on either side, the further the more?
      def self.hump?(means)
        means.each_cons(2).all? { |a, b| a > b } && means.first > HUMP_FROM * means.last
      end

      # Even, through values at these squares of distance: in the middle, and one away.
      def self.parabola(values, squares)
        mean = values.sum / values.size
        square = squares.sum / squares.size.to_f
        bend =
          values.each_index.sum { |n| (squares[n] - square) * (values[n] - mean) } /
            squares.sum { |each| (each - square)**2 }
        [mean - (bend * square), mean - (bend * (square - 1))]
      end
      private_class_method :hump?, :parabola
    end
  end
end
