# frozen_string_literal: true

module Gadwall
  module Repair
    # How the vehicle stands by what was signed of its plan, and by what the trace left open. A step that was marked as
    # not needed did nothing to the vehicle, so what depends on it asks again whether it is so.
    class Standing
      # rules: StateRules; steps: Array of Step in the order of the plan; touches: words of what the job touches; done:
      # {step id => "done" or "not_needed"}; ticked: {step id => Array of what was ticked}; left: facts that the trace
      # left, [[state id, place or nil], ...].
      def initialize(rules, steps, touches: [], done: {}, ticked: {}, left: [])
        @rules = rules
        @steps = steps
        @touches = rules.touched(touches)
        @done = done
        @ticked = ticked
        @left = left
        @last = last_signed
        @so_already = {}
        @problems = problems_by_step
        @so_already.freeze
        @asked = asked_of_open_steps.freeze
        @now = signed_state
        freeze
      end

      # The VehicleState as it is now: what was signed, done in the order of the plan.
      attr_reader :now

      # Steps still open that bring about only what is so already, by what the trace left: {step id => Array of
      # sentences}. They are looked at and signed, not done.
      attr_reader :so_already

      # What a step asks for again, because a step that it depends on was not needed or the trace left something open:
      # {step id => Array of sentences to be ticked}.
      attr_reader :asked

      private

      # Two vehicles side by side: one to which the plan is done as it was composed, one to which only that is done
      # which was not left out. What forbids a step on the second alone is asked with that step; what is left over at
      # the end, with the last. {step id => Array of VehicleState::Problem}.
      def problems_by_step
        whole = VehicleState.new(@rules, @touches)
        real = VehicleState.new(@rules, @left | @touches)
        found = Hash.new { |hash, id| hash[id] = [] }
        @steps.each do |step|
          note_what_is_so(step, real)
          known, whole = whole.run(step.does)
          found[step.id] = entered?(step) ? [] : more(known, real.run(step.does).first)
          real = settled(real, step, found[step.id])
          real = real.after(step.does) unless left_out?(step)
        end
        found[@last.id] |= left_over(whole, real) if @last
        found
      end

      def note_what_is_so(step, real)
        begun = step.does.flat_map { |word| @rules.begun(word) }
        return if closed?(step) || begun.empty? || step.does.any? { |word| @rules.ended(word).any? }
        return unless begun.all? { |id, place| @left.include?([id, place]) && real.holds?(id, place) }

        @so_already[step.id] = begun.map { |id, place| real.words(id, place) }
      end

      # Problems on the real vehicle that the whole one does not have.
      def more(known, problems)
        facts = known.map { |each| fact(each) }
        problems.reject { |each| facts.include?(fact(each)) }.uniq { |each| fact(each) }
      end

      def fact(problem)
        [problem.state, problem.place, problem.needed]
      end

      # What was ticked is so. What an open step asks is so for those after it.
      def settled(state, step, problems)
        ticked = @ticked.fetch(step.id, [])
        known = closed?(step) ? problems.select { |each| ticked.include?(sentence(each)) } : problems
        known.reduce(state) { |now, each| now.found(each) }
      end

      def left_over(whole, real)
        (real.facts - whole.facts).map do |state, place|
          VehicleState::Problem.new(state: state, place: place, needed: false)
        end
      end

      # The last step that is still to be signed, else the last that is signed at all.
      def last_signed
        signed = @steps.reject { |step| entered?(step) || left_out?(step) }
        signed.reverse.find { |step| !closed?(step) } || signed.last
      end

      def asked_of_open_steps
        @steps
          .reject { |step| closed?(step) || @problems[step.id].empty? }
          .to_h { |step| [step.id, @problems[step.id].map { |each| sentence(each) }.uniq] }
      end

      # What the job itself disturbs is so from the first step of the repair on.
      def signed_state
        state = VehicleState.new(@rules, @left)
        disturbed = false
        @steps.each do |step|
          next unless @done[step.id] == "done"

          state = VehicleState.new(@rules, state.facts | @touches) if step.phase == "work" && !disturbed
          disturbed ||= step.phase == "work"
          state = settled(state, step, @problems[step.id]).after(step.does)
          state = settled(state, step, @problems[step.id]) if step == @last
        end
        state
      end

      def sentence(problem)
        words = VehicleState.new(@rules).words(problem.state, problem.place)
        "It is #{problem.needed ? "so" : "over"} now: #{words}"
      end

      # Done by an entry of its own, which has no ticks.
      def entered?(step)
        step.does.intersect?(Progress::ENTERED)
      end

      def left_out?(step)
        @done[step.id] == "not_needed"
      end

      def closed?(step)
        @done.key?(step.id)
      end
    end
  end
end
