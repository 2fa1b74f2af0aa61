# frozen_string_literal: true

module Gadwall
  module Repair
    # Does a plan keep the rules that it was composed by? Every step that a rule asks for stands in it, and none stands
    # before what its rule says it follows. Looked at from the finished plan, whatever way its order was found.
    class RulesKept
      # base: RuleBase; sheet: Vehicle::Sheet; works: Array of Work; words: of what the job touches and is.
      def initialize(base, sheet, works, words)
        @base = base
        @sheet = sheet
        @works = works
        @words = words
      end

      # steps: Array of Step in their order. Returns an Array of DryRun::Finding, [] where all are kept.
      def findings(steps)
        missing(steps) + turned(steps)
      end

      private

      def missing(steps)
        there = steps.map(&:id)
        words = WordList.new(@words + steps.flat_map(&:does))
        (asked(words) + of_works)
          .to_h
          .except(*there)
          .map { |id, why| DryRun::Finding.new(step: nil, problem: "#{id} is left out, which #{why} asks for") }
      end

      # [[step id, what asks for it], ...]. Where a step is needless in some state of the vehicle, it is for the states
      # to say whether it is missed (DryRun).
      def asked(words)
        once = @base.rules.select { |rule| !rule.each_work? && rule.unless_so.empty? && rule.asked?(words, @sheet) }
        once.map { |rule| [rule.id, rule.because(words).first] }
      end

      def of_works
        @base
          .rules
          .select(&:each_work?)
          .flat_map { |rule| rule.works(@works).map { |work| [Step.id_of(rule, work), work.title] } }
          .uniq(&:first)
      end

      def turned(steps)
        place = steps.each_with_index.to_h { |step, i| [step.id, i] }
        Ordering
          .followers(steps.map { |step| node(step) })
          .flat_map do |id, before|
            before
              .select { |other| place[other] > place[id] }
              .map { |other| DryRun::Finding.new(step: id, problem: "#{id} stands before #{other}, which it follows") }
          end
      end

      def node(step)
        rule = @base[step.rule]
        Ordering::Node.new(step.id, rule.id, step.does, rule.after, rule.before)
      end
    end
  end
end
