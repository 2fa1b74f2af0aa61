# frozen_string_literal: true

module Gadwall
  module Scheduling
    # Puts steps into a day one after the other, each as early as its forerunners and what it needs allow (serial
    # generation of active schedules; handbook: scheduling, from memory). An order of steps is a schedule.
    class Builder
      MOST_ROUNDS = 500

      # problem: Problem.
      def initialize(problem)
        @problem = problem
        @steps = problem.steps.to_h { |step| [step.id, step] }
      end

      # order: ids of steps, each after those that it follows; what is missing follows by itself. choices: {step id =>
      # [resource ids]} that are to be used, or nothing. Returns a Schedule.
      def build(order, choices = {})
        begin_day
        fixed.each { |step| put(step, step.fixed.from, step.fixed.to, step.fixed.uses) }
        order.each { |id| place(@steps.fetch(id), choices[id]) unless @slots.key?(id) }
        Schedule.new(@problem, @slots.values)
      end

      # An empty day, for who places step by step.
      def begin_day
        @slots = {}
        @lines = @problem.resources.to_h { |each| [each.id, Timeline.new(each.windows)] }
        @last = {}
        @load = Hash.new(0)
      end

      # Slots so far: {step id => Slot}.
      attr_reader :slots

      # Steps that were given a slot already.
      def fixed
        @fixed ||= @problem.steps.select(&:fixed)
      end

      # Puts a step where it can be first. uses: resources to use, or nil. Returns the Slot.
      def place(step, uses = nil)
        step.after.each { |id| place(@steps.fetch(id)) unless @slots.key?(id) }
        from = [step.earliest, @problem.start, *step.after.map { |id| @slots.fetch(id).to }].max
        start, chosen = found(step, from, uses ? uses.map { |id| [id] } : step.needs)
        put(step, start, start + step.minutes, chosen)
      end

      # Takes a step out again. step: Step.
      def take_back(step)
        slot = @slots.delete(step.id)
        slot.uses.each do |id|
          @lines[id]&.release(slot.from, slot.to)
          @load[id] -= step.minutes
        end
      end

      private

      def put(step, from, to, uses)
        uses.each do |id|
          @lines[id]&.take(from, to)
          @load[id] += step.minutes
          (@last[step.job] ||= {})[id] = true
        end
        @slots[step.id] = Slot.new(step: step, from: from, to: to, uses: uses).freeze
      end

      # [start, resources]: the first moment at which one of each list is free, each of them once: two people are two.
      def found(step, from, needs)
        return from, [] if needs.empty?

        start = from
        MOST_ROUNDS.times do
          chosen = several(needs, start, step)
          latest = chosen.map(&:first).max
          return latest, chosen.map(&:last) if chosen.all? { |at, id| at == latest || free?(id, latest, step.minutes) }

          start = latest > start ? latest : start + 1
        end
        raise Error, "#{step.id}: no moment found at which all that it needs is free."
      end

      # One of each list, none twice; who has few to choose from chooses first. [[moment, id], ...] in the order of
      # needs.
      def several(needs, start, step)
        return needs.map { |ids| soonest(ids, start, step) } if needs.size == 1

        chosen = Array.new(needs.size)
        needs
          .each_index
          .sort_by { |i| [needs[i].size, i] }
          .each do |i|
            left = needs[i] - chosen.compact.map(&:last)
            if left.empty?
              raise Error, "#{step.id}: needs #{needs.size} different ones, and there are too few of a kind."
            end

            chosen[i] = soonest(left, start, step)
          end
        chosen
      end

      def free?(id, at, minutes)
        @lines.fetch(id).earliest(at, minutes) == at
      end

      # [moment, id]: of those that would do; one who knows the vehicle goes first, then who has least to do.
      def soonest(ids, start, step)
        return @lines.fetch(ids.first).earliest(start, step.minutes), ids.first if ids.size == 1

        ids
          .map { |id| [@lines.fetch(id).earliest(start, step.minutes), id] }
          .min_by { |at, id| [at, @last.dig(step.job, id) ? 0 : 1, @load[id], id] }
      end
    end
  end
end
