# frozen_string_literal: true

module Gadwall
  module Scheduling
    # Every order of the steps and every choice of what they use, with what cannot get better left out (branch and
    # bound). For small days.
    class Exact
      MOST_NODES = 60_000

      # problem: Problem; criterion: takes a Schedule, gives what is made least (an Array or a number); bound: takes the
      # Builder's slots and gives a criterion that none of what follows can better, or nil.
      def initialize(problem, criterion: :cost.to_proc, bound: nil, most: MOST_NODES)
        @problem = problem
        @criterion = criterion
        @bound = bound || ->(slots) { late_at_least(slots) }
        @most = most
      end

      # Returns [Schedule, whether it is proven the best].
      def solve(first = nil)
        @builder = Builder.new(@problem)
        @builder.build([])
        @best = first
        @best_cost = first && @criterion.call(first)
        @nodes = 0
        @seen = Set.new
        search
        [@best, @nodes <= @most]
      end

      private

      def search
        @nodes += 1
        return if @nodes > @most
        return keep if @builder.slots.size == @problem.steps.size
        return if hopeless? || !@seen.add?(key)

        open.each { |step| choices(step).each { |uses| try(step, uses) } }
      end

      def try(step, uses)
        @builder.place(step, uses)
        search
        @builder.take_back(step)
      end

      def keep
        schedule = Schedule.new(@problem, @builder.slots.values)
        cost = @criterion.call(schedule)
        return unless @best_cost.nil? || (cost <=> @best_cost).negative?

        @best = schedule
        @best_cost = cost
      end

      # The same slots, however they came about.
      def key
        @builder.slots.values.map { |slot| [slot.step.id, slot.from, slot.uses] }.sort
      end

      def open
        slots = @builder.slots
        @problem.steps.select { |step| !slots.key?(step.id) && step.after.all? { |id| slots.key?(id) } }
      end

      def choices(step)
        return [[]] if step.needs.empty?

        first, *rest = step.needs
        first.product(*rest).select { |uses| uses.uniq.size == uses.size }
      end

      def hopeless?
        return false unless @best_cost

        at_least = @bound.call(@builder.slots) or return false
        (at_least <=> @best_cost) == 1
      end

      # [late, 0, 0]: each job goes on from here with nobody in its way.
      def late_at_least(slots)
        late =
          @problem.jobs.sum do |job|
            next 0 unless job.promised

            [reached(job, slots) - job.promised, 0].max
          end
        [late, 0, 0]
      end

      def reached(job, slots)
        ends = {}
        by_id = job.steps.to_h { |step| [step.id, step] }
        reach =
          lambda do |step|
            ends[step.id] ||= slots[step.id]&.to ||
              ([step.earliest, @problem.start, *step.after.map { |id| reach.call(by_id.fetch(id)) }].max + step.minutes)
          end
        job.steps.map { |step| reach.call(step) }.max || @problem.start
      end
    end
  end
end
