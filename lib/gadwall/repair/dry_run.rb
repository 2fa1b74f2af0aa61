# frozen_string_literal: true

module Gadwall
  module Repair
    # Runs a plan on a vehicle of which only its state is known, step by step: no step may be done whose conditions are
    # not met, nothing may end that something else still needs, and at the end the vehicle is fit for the road.
    class DryRun
      # step: id of a step, or nil for the end; problem: a sentence.
      Finding = Struct.new(:step, :problem, keyword_init: true)

      # rules: StateRules; touches: words of what the job touches; steps: Array of Step; left: facts that hold before.
      def initialize(rules, touches, steps, left: [])
        @rules = rules
        @touches = touches
        @steps = steps
        @left = left
      end

      # Array of Finding, [] for a sound plan.
      def findings
        state = begin_with
        found =
          @steps.flat_map do |step|
            problems, state = state.run(step.does)
            problems.map { |each| Finding.new(step: step.id, problem: each.problem) }
          end
        found + left(state)
      end

      # The state of the vehicle before the first step: VehicleState.
      def begin_with
        VehicleState.new(@rules, @left | @rules.touched(@touches))
      end

      private

      def left(state)
        state.facts.map do |id, place|
          Finding.new(step: nil, problem: "the vehicle is handed over with '#{state.words(id, place)}'")
        end
      end
    end
  end
end
