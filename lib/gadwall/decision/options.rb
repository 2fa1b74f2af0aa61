# frozen_string_literal: true

module Gadwall
  module Decision
    # The ways to act on where the diagnosis stands, each with what it would cost in the end.
    class Options
      # cost: price and labour now; expected: with the chance that it is the wrong job, or does not last; text of why.
      Choice = Struct.new(:id, :name, :note, :price, :hours, :waiting_days, :lasts, :cost, :expected, :safety, :needs, :recommended, keyword_init: true)
      # Replace now against test first.
      Comparison = Struct.new(:replace_now, :test_first, :break_even, :probability, :test, :advice, keyword_init: true)

      attr_reader :choices, :comparison

      # assessment: Diagnosis::Assessment; rate: the shop's price of an hour.
      def initialize(assessment, rate:)
        @assessment = assessment
        @rate = rate
        @verdict = assessment.verdict
        @catalogue = assessment.system.catalogue
        @choices = rank.freeze
        @comparison = compare
        freeze
      end

      def choice(id)
        choices.find { |choice| choice.id == id }
      end

      private

      def rank
        return [] if @verdict.suspect.none?

        made = records.map { |record| build(record) }
        safe = made.reject(&:safety)
        best = safe.min_by(&:expected)
        made.map { |choice| choice.id == best&.id ? choice.dup.tap { |copy| copy.recommended = true }.freeze : choice }
            .sort_by { |choice| [choice.safety ? 1 : 0, choice.expected] }
      end

      def records
        @catalogue.repairs.values.select { |record| [@verdict.suspect.fault.repair, "any"].include?(record["hand"]) }
      end

      def build(record)
        cost = record["price"] + (record["hours"] * @rate)
        Choice.new(**record.slice("id", "name", "note", "price", "hours", "waiting_days", "lasts", "safety", "needs").transform_keys(&:to_sym),
                   cost: cost.round, expected: expected(cost, record["lasts"]).round, recommended: false).freeze
      end

      # Wrong job: the other one follows, with its test. Right job that does not last: it is done again.
      def expected(cost, lasts)
        p = @verdict.probability
        cost + ((1 - p) * (test_cost + other_cost)) + (p * (1 - lasts) * [cost, @rate].max)
      end

      def next_test
        @assessment.next_tests.first
      end

      def test_cost
        next_test ? next_test.minutes / 60.0 * @rate : 0.0
      end

      # The cheapest lasting job of the strongest rival.
      def other_cost
        rival = @assessment.suspects.find { |suspect| !suspect.none? && suspect.place != @verdict.suspect.place }
        costs = @catalogue.repairs.values.select { |record| rival && record["hand"] == rival.fault.repair && !record["safety"] }
                          .map { |record| record["price"] + (record["hours"] * @rate) }
        costs.min || @rate
      end

      def compare
        return nil if @verdict.suspect.none? || next_test.nil? || choices.empty?

        replace = (choices.find(&:recommended) || choices.first).cost
        figures = { replace: replace, test: test_cost, p: @verdict.probability }
        now = Costs.replace_now(**figures, other: other_cost)
        first = Costs.test_first(**figures, other: other_cost)
        even = Costs.break_even(replace: replace, test: test_cost)
        Comparison.new(replace_now: now.round, test_first: first.round, break_even: even, probability: @verdict.probability,
                       test: next_test, advice: advice(now, first)).freeze
      end

      def advice(now, first)
        return "Proven: act." if @verdict.proven?
        return "Test first: #{(now - first).round} cheaper on average." if first < now

        @verdict.missing.any? ? "The next test costs more than it saves on average, but the verdict still misses: #{@verdict.missing.map { |gap| gap.text.downcase }.join('; ')}." : "The next test costs more than it can save: act."
      end
    end
  end
end
