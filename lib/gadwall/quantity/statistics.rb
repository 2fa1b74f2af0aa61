# frozen_string_literal: true

module Gadwall
  module Quantity
    # Middle values, which a few wild samples do not move.
    module Statistics
      # The value in the middle; of an even number the upper of the two. values: Array of numbers. Returns one of them,
      # nil for none.
      def self.median(values)
        values.empty? ? nil : values.sort[values.size / 2]
      end

      # Median of a value and of so many on either side. values: Array of numbers; i: index; reach: how many.
      def self.median_about(values, i, reach)
        median(values[[i - reach, 0].max..(i + reach)])
      end
    end
  end
end
