# frozen_string_literal: true

module Gadwall
  module Decision
    # The ways to act on where the diagnosis stands, each with what it would cost in the end.
    class Options
      # cost: price and labour now; expected: with the chance that it is the wrong job, or does not last; text of why.
      Choice =
        Struct.new(
          :id,
          :name,
          :note,
          :price,
          :hours,
          :waiting_days,
          :lasts,
          :cost,
          :expected,
          :safety,
          :needs,
          :recommended,
          keyword_init: true
        )
      # Replace now against test first.
      Comparison = Struct.new(:replace_now, :test_first, :break_even, :probability, :test, :advice, keyword_init: true)

      attr_reader :conclusion, :choices, :comparison

      # assessment: Diagnosis::Assessment; conclusion: of its verdict, the one to be acted on; rate: the shop's price of
      # an hour.
      def initialize(assessment, conclusion = assessment.verdict.conclusions.first, rate:)
        @assessment = assessment
        @rate = rate
        @conclusion = @verdict = conclusion
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
        made
          .map { |choice| choice.id == best&.id ? choice.dup.tap { |copy| copy.recommended = true }.freeze : choice }
          .sort_by { |choice| [choice.safety ? 1 : 0, choice.expected] }
      end

      def records
        @catalogue.repairs.values.select { |record| answers?(record, @verdict.suspect) || record["repair"] == "any" }
      end

      # Is this a way to mend what is suspected, in such a circuit?
      def answers?(record, suspect)
        record["repair"] == suspect.repair &&
          (record["families"].nil? || record["families"].include?(suspect.circuit.family)) && sold?(record, suspect)
      end

      # A sensor that is sold only with its hub is not to be had alone.
      def sold?(record, suspect)
        return true unless record["alone"]

        ends =
          { "no" => [], "both" => %w[front rear] }.fetch(@assessment.system.sheet.answers["sensor_with_hub"]) do |given|
            [given]
          end
        ends.none? { |name| suspect.circuit.id.start_with?(name) }
      end

      def build(record)
        cost = record["price"] + (record["hours"] * @rate)
        Choice.new(
          **record.slice(
            "id",
            "name",
            "note",
            "price",
            "hours",
            "waiting_days",
            "lasts",
            "safety",
            "needs"
          ).transform_keys(&:to_sym),
          cost: cost.round,
          expected: expected(cost, record["lasts"]).round,
          recommended: false
        ).freeze
      end

      # Wrong job: the other one follows, with its test. Right job that does not last: it is done again.
      def expected(cost, lasts)
        p = @verdict.probability
        cost + ((1 - p) * (test_cost + other_cost)) + (p * (1 - lasts) * [cost, @rate].max)
      end

      def next_test
        @assessment.next_tests.find { |option| @conclusion.investigation.covers?(option.circuit.id) }
      end

      def test_cost
        next_test ? next_test.minutes / 60.0 * @rate : 0.0
      end

      # The cheapest lasting job of the strongest rival.
      def other_cost
        rival =
          @assessment.suspects.find do |suspect|
            !suspect.none? && suspect.members.size == 1 && suspect.place != @verdict.suspect.place
          end
        costs =
          @catalogue
            .repairs
            .values
            .select { |record| rival && answers?(record, rival) && !record["safety"] }
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
        Comparison.new(
          replace_now: now.round,
          test_first: first.round,
          break_even: even,
          probability: @verdict.probability,
          test: next_test,
          advice: advice(now, first)
        ).freeze
      end

      def advice(now, first)
        return "Proven: act." if @verdict.proven?
        return "Test first: #{(now - first).round} cheaper on average." if first < now

        if @verdict.missing.any?
          "The next test costs more than it saves on average, but the verdict still misses: " \
            "#{@verdict.missing.map { |gap| gap.text.downcase }.join("; ")}."
        else
          "The next test costs more than it can save: act."
        end
      end
    end
  end
end
