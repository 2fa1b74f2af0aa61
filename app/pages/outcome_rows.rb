# frozen_string_literal: true

module Web
  module Pages
    # What each result of the test shown would point to, with chances that add up to 100 %.
    module OutcomeRows
      # percent: whole, of 100 in all; points_to: where it leads; normal: is it what a circuit without fault shows?
      Row = Struct.new(:label, :probability, :percent, :points_to, :normal, keyword_init: true)

      SHOWN = 6
      LEAST_REST = 0.005 # from which what is left of 100 % has a row of its own

      # option: of NextTests with its outcomes, or nil. The block words a place. Returns Array of Row.
      def self.of(option, &)
        shown = (option&.outcomes || []).first(SHOWN)
        return [] if shown.empty?

        rows = shown.map { |outcome| row(outcome, &) }
        rest = 1 - shown.sum(&:chance)
        rows << Row.new(label: "any other result", probability: rest, points_to: "test again") if rest >= LEAST_REST
        whole(rows)
      end

      def self.row(outcome)
        Row.new(
          label: outcome.label,
          probability: outcome.chance,
          points_to: yield(outcome.places.keys.first),
          normal: outcome.good
        )
      end

      # The largest remainders are rounded up.
      def self.whole(rows)
        exact = rows.map { |row| row.probability * 100 }
        shown = exact.map(&:floor)
        order = exact.each_index.sort_by { |i| shown[i] - exact[i] }
        (100 - shown.sum).times { |n| shown[order[n % order.size]] += 1 }
        rows.each_with_index { |row, i| row.percent = shown[i] }
      end
      private_class_method :row, :whole
    end
  end
end
