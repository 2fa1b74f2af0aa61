# frozen_string_literal: true

module Gadwall
  module Repair
    # Composes the plan of a job: from what its works touch (Touches) and the rules that ask for steps (RuleBase), in
    # the order that phases and rules ask for (Ordering). Several faults give one plan.
    class Composer
      # codes: {circuit id => [codes of the pre-scan]}; intermittent: did the fault come and go? left: states that the
      # vehicle is in before the plan begins, [[state id, place or nil], ...]: it ends them as well. Returns a Plan.
      # Raises UnsoundPlanError for one that leaves anything undone or does it while it hurts somebody (DryRun).
      def self.plan(system, works, codes: {}, intermittent: false, left: [])
        new(system, works, codes, intermittent, left).plan
      end

      # The plan from the vehicle as the trace left it. Where none can begin from there (a wheel is off that must be on
      # first), one that begins with a vehicle fit for the road: its steps ask for what differs (Standing). left: as of
      # `plan`; more: codes and intermittent.
      def self.plan_from(left, system, works, **more)
        plan(system, works, **more, left: left)
      rescue UnsoundPlanError
        raise if left.empty?

        plan(system, works, **more)
      end

      # The same where there may be none: [Plan or nil, why there is no sound one or nil].
      def self.plan_or_reason(system, works)
        [works.empty? ? nil : plan(system, works), nil]
      rescue UnsoundPlanError => error
        [nil, error.message]
      end

      # What would be wrong with these steps as a plan for these works: Array of DryRun::Finding, [] for a sound one.
      def self.findings(system, works, steps, codes: {}, intermittent: false)
        new(system, works, codes, intermittent).findings(steps)
      end

      # Version of the rules that plans are composed by.
      def self.rules(catalogue = Knowledge.catalogue)
        RuleBase.of(catalogue).version
      end

      def initialize(system, works, codes, intermittent, left = [])
        @system = system
        @sheet = system.sheet
        @catalogue = system.catalogue
        @works = works
        @codes = codes
        @intermittent = intermittent
        @left = left
      end

      # Plan.
      def plan
        steps = proven(ordered(built(touches)))
        words = touches + special + steps.flat_map(&:does)
        legs = DriveLegs.for(@catalogue, @works, words.uniq, @codes)
        Plan.new(rules: base.version, touches: touches, steps: steps, drive: legs).freeze
      end

      # As of the class.
      def findings(steps)
        kept = RulesKept.new(base, @sheet, @works, touches + special)
        DryRun.new(state_rules, touches, steps, left: @left).findings + kept.findings(steps)
      end

      private

      def touches
        @touches ||= Touches.words(@sheet, @works, @catalogue) | @left.filter_map { |fact| state_rules.word_of(*fact) }
      end

      def proven(steps)
        found = findings(steps)
        raise UnsoundPlanError, found if found.any?

        steps
      end

      def state_rules
        @state_rules ||= StateRules.of(@catalogue, @sheet)
      end

      def base
        RuleBase.of(@catalogue)
      end

      # [[Rule, Step], ...]: rules asked for until no step asks for another.
      def built(touches)
        words = WordList.new(touches + special)
        own = each_work(words)
        words.add(own.flat_map { |_, step| step.does })
        chosen = asked(words)
        made = chosen.map { |rule| [rule, Step.of(rule, words, @catalogue, sheet: @sheet)] } + own
        made.sort_by.with_index { |(rule, _), i| [base.place(rule), i] }
      end

      # Rules that the words ask for; what their steps do may ask for others.
      def asked(words)
        left = base.rules.reject(&:each_work?)
        chosen = []
        loop do
          more, left = left.partition { |rule| rule.asked?(words, @sheet) }
          return chosen if more.empty?

          chosen.concat(more)
          words.add(more.flat_map { |rule| rule.done(words) })
        end
      end

      def each_work(words)
        base
          .rules
          .select(&:each_work?)
          .flat_map { |rule| rule.works(@works).uniq(&:location).map { |work| [rule, step_of(rule, words, work)] } }
      end

      # The step of one work, because of what that work touches.
      def step_of(rule, words, work)
        touched = Touches.words(@sheet, [work], @catalogue)
        Step.of(rule, words, @catalogue, sheet: @sheet, work: work, because: touched.empty? ? ["always"] : touched)
      end

      def ordered(made)
        nodes = made.map { |rule, step| Ordering::Node.new(step.id, rule.id, step.does, rule.after, rule.before) }
        links = StateOrder.followers(state_rules, made.to_h { |_, step| [step.id, step.does] })
        follows = Ordering.followers(nodes).merge(links) { |_, rule, state| rule | state }
        phases = made.to_h { |_, step| [step.id, Rule::PHASES.index(step.phase)] }
        steps = made.to_h { |_, step| [step.id, step] }
        order = Ordering.sort(follows, phases)
        needed = needed(order.map { |id| steps.fetch(id) }).map(&:id)
        needed
          .map do |id|
            before = (follows.fetch(id) & needed).sort_by { |each| needed.index(each) }
            steps.fetch(id).dup.tap { |step| step.after = before }.freeze
          end
          .freeze
      end

      # Without steps that would make so what is so already at their turn (`unless_so` of their rules).
      def needed(steps)
        state = DryRun.new(state_rules, touches, steps, left: @left).begin_with
        steps.reject do |step|
          rule = base[step.rule]
          needless = rule.unless_so.any? { |id| state.holds?(id) }
          state = state.after(step.does) unless needless
          needless
        end
      end

      def special
        words = ["always", "volt_#{@sheet.system_voltage}"]
        words << "nothing_done" if @works.all? { |work| Touches::NOTHING.include?(work.option) }
        safety = @works.map { |work| @catalogue.repairs.dig(work.option, "safety") }
        watched = @works.any? { |work| (@catalogue.repairs.dig(work.option, "needs") || []).include?("watch") }
        words << "watched" if watched || @intermittent
        words << "temporary" if safety.include?("temporary")
        words
      end
    end
  end
end
