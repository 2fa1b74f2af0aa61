# frozen_string_literal: true

module Gadwall
  module Scheduling
    # Slots of a day, with what they cost.
    class Schedule
      attr_reader :problem, :slots

      # slots: Array of Slot.
      def initialize(problem, slots)
        @problem = problem
        @slots = slots
      end

      # {job id => minutes after its promise}, 0 where it is in time or nothing was promised.
      def late
        @late ||= problem.jobs.to_h { |job| [job.id, job.promised ? [done_at(job.id) - job.promised, 0].max : 0] }
      end

      # When the last step of a job ends, minutes; the start of the day where it has none.
      def done_at(job_id)
        (@ends ||= slots.group_by(&:job).transform_values { |list| list.map(&:to).max }).fetch(job_id, problem.start)
      end

      # Slots that do not fit the hours of those whom they take: Array of [Slot, Resource that is away]. Work after
      # closing is no plan.
      def misfits
        @misfits ||=
          slots.filter_map do |slot|
            away = slot.uses.filter_map { |id| problem.resource(id) }.find { |each| !there?(each, slot) }
            [slot, away] if away
          end
      end

      # The last end of all.
      def makespan
        slots.map(&:to).max || problem.start
      end

      # Minutes in which hands wait between their first and their last piece of work.
      def idle
        @idle ||= people.sum { |_, list| list.each_cons(2).sum { |one, next_one| [next_one.from - one.to, 0].max } }
      end

      # How often somebody goes from one vehicle to another.
      def moves
        @moves ||= people.sum { |_, list| list.each_cons(2).count { |one, next_one| one.job != next_one.job } }
      end

      # What is made least, first things first: [minutes late, idle minutes, moves].
      def cost
        [late.values.sum, idle, moves]
      end

      # Slots of a resource, in order. id: text.
      def lane(id)
        slots.select { |slot| slot.uses.include?(id) }.sort_by { |slot| [slot.from, slot.to] }
      end

      # step: id. Returns a Slot or nil.
      def slot(step_id)
        (@by_step ||= slots.to_h { |slot| [slot.step.id, slot] })[step_id]
      end

      private

      def there?(resource, slot)
        resource.windows.empty? || resource.windows.any? { |from, to| slot.from >= from && slot.to <= to }
      end

      def people
        @people ||=
          problem
            .resources
            .select { |each| each.kind == "person" }
            .map { |each| [each.id, lane(each.id).select { |slot| slot.step.attended }] }
      end
    end
  end
end
