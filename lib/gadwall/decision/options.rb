# frozen_string_literal: true

module Gadwall
  module Decision
    # The ways to act on where the diagnosis stands, each with what it would cost in the end.
    class Options
      # price, cost, expected: in the workshop's currency; cost: parts and labour now; expected: with the chance that it
      # is the wrong repair, or does not last; hours: of work, repair_hours of them for the repair itself (the shop's
      # figure) and the others for what its plan brings along; lasts: chance (0..1) of two years; needs: what must be
      # done beside what it touches; plain, risk: what it is and what can go wrong, in the customer's words; returned:
      # share of the price that comes back; brings: words of what its plan brings along; refused: why it may not be
      # chosen, or nil.
      Choice =
        Struct.new(
          :id,
          :name,
          :note,
          :price,
          :hours,
          :repair_hours,
          :waiting_days,
          :lasts,
          :cost,
          :expected,
          :safety,
          :needs,
          :plain,
          :risk,
          :returned,
          :brings,
          :refused,
          :recommended,
          :steps,
          :hands_minutes,
          :wait_minutes,
          :if_wrong,
          :if_again,
          keyword_init: true
        )
      NOTHING = "none" # the repair that 'no fault found' asks for
      RECORDED = %w[id name note price waiting_days lasts safety needs plain risk returned].freeze
      # Replace now against test first. Costs in the workshop's currency; break_even and probability: 0..1.
      Comparison = Struct.new(:replace_now, :test_first, :break_even, :probability, :test, :advice, keyword_init: true)

      attr_reader :conclusion, :choices, :comparison, :triage

      # assessment: Diagnosis::Assessment; conclusion: of its verdict, the one to be acted on; shop: the workshop's
      # price of an hour; triage: ids of Decision::Triage that were said of the vehicle.
      def initialize(assessment, conclusion = assessment.verdict.conclusions.first, shop: Shop.new, triage: [])
        @assessment = assessment
        @shop = shop
        @conclusion = conclusion
        @catalogue = assessment.system.catalogue
        @triage = (triage | Diagnosis::OffRoad.triage(suspect, @catalogue)).freeze
        @next_test = assessment.next_test_in(followed)
        @choices = rank.freeze
        @comparison = compare
        freeze
      end

      # Can an option be had here, in a circuit of its families? A sensor that is sold only with its hub is not to be
      # had alone, what makes a lead stiff is not for one that flexes, and keeping a vehicle off the road is for one
      # that must not be driven. record: of options.yml; circuit: of the System; place: in it; sheet: Vehicle::Sheet;
      # triage: ids of Triage that hold.
      def self.fits?(record, circuit, place, sheet, triage)
        return false if record["only_off_road"] && triage.empty?
        return false unless record["families"].nil? || record["families"].include?(circuit.family)

        sold?(record, circuit, sheet) && !(record["stiff"] && flexes?(circuit, place))
      end

      def self.sold?(record, circuit, sheet)
        return true unless record["alone"]

        given = sheet.answers["sensor_with_hub"]
        ends = { "no" => [], "both" => %w[front rear] }.fetch(given, [given])
        ends.none? { |name| circuit.id.start_with?(name) }
      end

      def self.flexes?(circuit, place)
        circuit.harness.sections.any? { |section| section.id == place && section.flexes }
      end
      private_class_method :sold?, :flexes?

      # Hours of work: those of the repair itself and those of what its plan holds beyond. record: of options.yml; plan:
      # Repair::Plan, or nil where it has none.
      def self.hours(record, plan, catalogue)
        beyond = plan ? plan.minutes_beyond_repair(catalogue) : 0
        (record["hours"] + (beyond / 60.0)).round(1)
      end

      # id: of data/repairs/options.yml. Returns a Choice or nil.
      def choice(id)
        choices.find { |choice| choice.id == id }
      end

      # What the options are for.
      def suspect
        conclusion.suspect
      end

      # Short: an error message must not print the whole job.
      def inspect
        "#<#{self.class} #{conclusion.suspect.place}>"
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
        asked =
          @catalogue.repairs.values.select do |record|
            suspect.none? ? record["repair"] == NOTHING : answers?(record, suspect)
          end
        asked.map { |record| @shop.priced(record) }
      end

      # Is this a way to repair what is suspected, or to leave it, in such a circuit?
      def answers?(record, suspect)
        ["any", suspect.repair].include?(record["repair"]) && fits?(record, suspect)
      end

      def fits?(record, suspect)
        place = suspect.place.split("/", 2).last
        Options.fits?(record, suspect.circuit, place, @assessment.system.sheet, triage)
      end

      def build(record)
        plan, unsound = plan_of(record, suspect)
        hours = Options.hours(record, plan, @catalogue)
        cost = cost_of(record, hours)
        Choice.new(
          **record.slice(*RECORDED).transform_keys(&:to_sym),
          **of_plan(plan),
          hours: hours,
          repair_hours: record["hours"],
          note: record["note"].sub("{stays_off}") { stays_off },
          cost: cost.round,
          if_wrong: if_wrong(record).round,
          if_again: if_again(record, cost).round,
          expected: (cost + if_wrong(record) + if_again(record, cost)).round,
          refused: Refusals.of(record, conclusion, triage) || unsound,
          recommended: false
        )
      end

      # [Repair::Plan of this option or nil, why there is no sound one or nil].
      def plan_of(record, suspect)
        system = @assessment.system
        Repair::Composer.plan_or_reason(system, Repair::Work.of(suspect, record["id"], system))
      end

      # What the driver goes without while it is left as it is.
      def stays_off
        families = suspect.members.map { |circuit, _| circuit.family }.uniq
        families.filter_map { |family| @catalogue.stays_off.dig(family, "text") }.join(" ")
      end

      # How long the plan is, beside the shop's own figure; wait_minutes run by themselves.
      def of_plan(plan)
        return { brings: [] } unless plan

        {
          brings: plan.brings,
          steps: plan.steps.size,
          hands_minutes: plan.hands_minutes(@catalogue),
          wait_minutes: plan.wait_minutes
        }
      end

      def cost_of(record, hours)
        record["price"] + (hours * @shop.rate)
      end

      # Wrong repair: the other one follows, with its test, less what the part gives back.
      def if_wrong(record)
        (1 - conclusion.probability) * (test_cost + other_cost - (record["price"] * record["returned"]))
      end

      # Right repair that does not last: it is done again.
      def if_again(record, cost)
        conclusion.probability * (1 - record["lasts"]) * [cost, @shop.rate].max
      end

      def test_cost
        next_test ? next_test.minutes / 60.0 * @shop.rate : 0.0
      end

      # The cheapest lasting repair of the strongest rival.
      def other_cost
        @other_cost ||=
          begin
            costs = rival ? lasting_repairs(rival).map { |record| cost_at(record, rival) } : []
            costs.min || @shop.rate
          end
      end

      def cost_at(record, suspect)
        cost_of(record, Options.hours(record, plan_of(record, suspect).first, @catalogue))
      end

      def rival
        @assessment.suspects.find { |other| !other.none? && other.members.size == 1 && other.place != suspect.place }
      end

      def lasting_repairs(suspect)
        fitting = @catalogue.repairs.values.select { |record| answers?(record, suspect) && !record["safety"] }
        fitting.map { |record| @shop.priced(record) }
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
