# frozen_string_literal: true

module Gadwall
  module Calculators
    # Chances, costs and waits (data/sums/judgement.yml).
    module JudgementSums
      module_function

      # Trips.
      def clean_trips(share:, trust:)
        Book.result(needed(share, trust))
      end

      # Looks.
      def looks(share:, trust:)
        Book.result(needed(share, trust), more: [["mean to the first sight", 100.0 / share, "looks"]])
      end

      def needed(share, trust)
        ((Math.log(1 - (trust / 100.0)) / Math.log(1 - (share / 100.0))) - 1e-9).ceil
      end

      # Break-even chance, %; with both costs and what they say.
      def replace_now(part:, test:, other:, chance:)
        p = chance / 100.0
        now = part + ((1 - p) * (test + other))
        first = test + (p * part) + ((1 - p) * other)
        Book.result(
          100.0 * part / (part + test),
          more: [
            ["replace now", now, ""],
            ["test first", first, ""],
            ["so", now < first ? "replace" : "test first", ""]
          ]
        )
      end

      # Tests.
      def half_split(joints:)
        Book.result(
          Math.log2(joints).ceil,
          more: [["one by one, mean", ((joints + 1) / 2.0) - (1.0 / joints), "tests"]]
        )
      end

      # %.
      def bayes(prior:, ratio:)
        odds = prior / (100.0 - prior) * ratio
        Book.result(100.0 * odds / (1 + odds), more: [["odds", odds, "to 1"]])
      end

      # kohm.
      def insulation(volt:, kind:)
        Book.result(volt * (kind == "direct" ? 100 : 500) / 1000.0)
      end

      # V; with when 60 V are reached.
      def capacitor_wait(volt:, capacity:, ohm:, wait:)
        constant = capacity * 1e-6 * ohm * 1e3
        more = volt > 60 ? [["60 V after", constant * Math.log(volt / 60.0), "s"]] : []
        Book.result(volt * Math.exp(-wait / constant), more: more)
      end
    end
  end
end
