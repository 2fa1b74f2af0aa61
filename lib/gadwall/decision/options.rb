# frozen_string_literal: true

module Gadwall
  module Decision
    # The ways to act on where the diagnosis stands, each with what it would cost in the end.
    class Options
      # price, cost, expected: in the workshop's currency; cost: parts and labour now; expected: with the chance that it
      # is the wrong repair, or does not last; hours: of work; lasts: chance (0..1) of two years; needs: words for
      # Repair::Composer; refused: why it may not be chosen, or nil.
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
          :refused,
          :recommended,
          keyword_init: true
        )
      NOTHING = "none" # the repair that 'no fault found' asks for
      RECORDED = %w[id name note price hours waiting_days lasts safety needs].freeze
      # Replace now against test first. Costs in the workshop's currency; break_even and probability: 0..1.
      Comparison = Struct.new(:replace_now, :test_first, :break_even, :probability, :test, :advice, keyword_init: true)

      attr_reader :conclusion, :choices, :comparison, :triage

      # assessment: Diagnosis::Assessment; conclusion: of its verdict, the one to be acted on; rate: the workshop's
      # price of an hour; triage: ids of Decision::Triage that were said of the vehicle.
      def initialize(assessment, conclusion = assessment.verdict.conclusions.first, rate:, triage: [])
        @assessment = assessment
        @rate = rate
        @conclusion = conclusion
        @catalogue = assessment.system.catalogue
        @triage = (triage | OffRoad.triage(suspect, @catalogue)).freeze
        @next_test = assessment.next_test_in(followed)
        @choices = rank.freeze
        @comparison = compare
        freeze
      end

      # id: of data/repairs/options.yml. Returns a Choice or nil.
      def choice(id)
        choices.find { |choice| choice.id == id }
      end

      # What the options are for.
      def suspect
        conclusion.suspect
      end

      private

      attr_reader :next_test

      def followed
        @assessment.system.circuits.select { |circuit| @conclusion.investigation.covers?(circuit.id) }
      end

      def rank
        made = records.map { |record| build(record) }
        best = made.reject { |choice| choice.safety || choice.refused }.min_by(&:expected)
        made
          .map { |choice| choice.id == best&.id ? choice.dup.tap { |copy| copy.recommended = true } : choice }
          .each(&:freeze)
          .sort_by { |choice| [choice.safety ? 1 : 0, choice.expected] }
      end

      def records
        return @catalogue.repairs.values.select { |record| record["repair"] == NOTHING } if suspect.none?

        @catalogue.repairs.values.select { |record| answers?(record, suspect) || record["repair"] == "any" }
      end

      # Is this a way to repair what is suspected, in such a circuit?
      def answers?(record, suspect)
        record["repair"] == suspect.repair &&
          (record["families"].nil? || record["families"].include?(suspect.circuit.family)) && sold?(record, suspect)
      end

      # A sensor that is sold only with its hub is not to be had alone.
      def sold?(record, suspect)
        return true unless record["alone"]

        given = @assessment.system.sheet.answers["sensor_with_hub"]
        ends = { "no" => [], "both" => %w[front rear] }.fetch(given, [given])
        ends.none? { |name| suspect.circuit.id.start_with?(name) }
      end

      def build(record)
        cost = cost_of(record)
        Choice.new(
          **record.slice(*RECORDED).transform_keys(&:to_sym),
          cost: cost.round,
          expected: expected(cost, record["lasts"]).round,
          refused: Refusals.of(record, conclusion, triage),
          recommended: false
        )
      end

      def cost_of(record)
        record["price"] + (record["hours"] * @rate)
      end

      # Wrong repair: the other one follows, with its test. Right repair that does not last: it is done again.
      def expected(cost, lasts)
        p = conclusion.probability
        cost + ((1 - p) * (test_cost + other_cost)) + (p * (1 - lasts) * [cost, @rate].max)
      end

      def test_cost
        next_test ? next_test.minutes / 60.0 * @rate : 0.0
      end

      # The cheapest lasting repair of the strongest rival.
      def other_cost
        @other_cost ||=
          begin
            costs = rival ? lasting_repairs(rival).map { |record| cost_of(record) } : []
            costs.min || @rate
          end
      end

      def rival
        @assessment.suspects.find { |other| !other.none? && other.members.size == 1 && other.place != suspect.place }
      end

      def lasting_repairs(suspect)
        @catalogue.repairs.values.select { |record| answers?(record, suspect) && !record["safety"] }
      end

      def compare
        return nil if suspect.none? || next_test.nil? || choices.empty?

        replace = (choices.find(&:recommended) || choices.first).cost
        figures = { replace: replace, test: test_cost, p: conclusion.probability }
        now = Costs.replace_now(**figures, other: other_cost)
        first = Costs.test_first(**figures, other: other_cost)
        Comparison.new(
          replace_now: now.round,
          test_first: first.round,
          break_even: Costs.break_even(replace: replace, test: test_cost),
          probability: conclusion.probability,
          test: next_test,
          advice: advice(now, first)
        ).freeze
      end

      def advice(now, first)
        return "Proven: proceed with the repair." if conclusion.proven?
        return "Test first: saves #{(now - first).round} on average." if first < now
        return "The next test costs more than it can save: proceed with the repair." if conclusion.missing.empty?

        "The next test costs more than it saves on average, but the diagnosis is not proven. Still to test: " \
          "#{conclusion.missing.map(&:text).join("; ")}."
      end
    end
  end
end
