# frozen_string_literal: true

module Gadwall
  module Calculators
    # Battery and key-on time (data/sums/battery.yml).
    module BatterySums
      # [V at rest, % of charge] of a flooded 12 V battery; handbook: battery service data, from memory.
      AT_REST = [[11.89, 0], [12.06, 25], [12.24, 50], [12.45, 75], [12.65, 100]].freeze

      module_function

      # %.
      def battery_state(volt:)
        return Book.result(0.0, more: [["deeply discharged", "", ""]]) if volt <= AT_REST.first.first
        return Book.result(100.0) if volt >= AT_REST.last.first

        (low, from), (high, to) = AT_REST.each_cons(2).find { |_, (above, _)| volt <= above }
        Book.result(from + ((to - from) * (volt - low) / (high - low)))
      end

      # Minutes.
      def key_on_time(capacity:, state:, current:, least:)
        Book.result([capacity * (state - least) / 100.0 / current * 60, 0].max)
      end

      # Hours.
      def charge_needed(capacity:, state:, wanted:, current:, efficiency:)
        missing = [capacity * (wanted - state) / 100.0, 0].max
        Book.result(missing / (efficiency / 100.0) / current, more: [["missing", missing, "Ah"]])
      end
    end
  end
end
