# frozen_string_literal: true

module Gadwall
  module Scheduling
    # The best day that can be found: proven for small ones, good for large ones.
    class Planner
      # schedule: Schedule; optimal: is it proven that none is better?; late_at_least: minutes that no day betters.
      Planned = Struct.new(:schedule, :optimal, :late_at_least, keyword_init: true)
      SMALL = 10 # steps that are searched through

      # problem: Problem; seed: Integer; work: as of Search. Returns Planned.
      def self.plan(problem, seed: 1, work: Search::WORK)
        return Planned.new(schedule: Schedule.new(problem, []), optimal: true, late_at_least: 0) if problem.steps.empty?

        schedule = Search.new(problem, seed: seed, work: work).solve
        at_least = Bounds.late(problem)
        free = problem.steps.count { |step| step.fixed.nil? }
        schedule, optimal = Exact.new(problem).solve(schedule) if free <= SMALL
        optimal ||= schedule.cost == [at_least, 0, 0]
        Planned.new(schedule: schedule, optimal: optimal || false, late_at_least: at_least).freeze
      end
    end
  end
end
