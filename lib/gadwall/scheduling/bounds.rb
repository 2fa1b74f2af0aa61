# frozen_string_literal: true

module Gadwall
  module Scheduling
    # What no schedule can better: how late jobs are at least.
    module Bounds
      # Minutes late at least, all jobs together: each by itself, or all on the one kind of hands that they need.
      def self.late(problem)
        alone = problem.jobs.sum { |job| late_alone(problem, job) }
        [alone, *crowds(problem)].max
      end

      # A job's lateness where nobody is in its way.
      def self.late_alone(problem, job)
        return 0 unless job.promised

        [finish(problem, job) - job.promised, 0].max
      end

      # Its earliest end: the longest chain of its steps.
      def self.finish(problem, job)
        ends = {}
        by_id = job.steps.to_h { |step| [step.id, step] }
        reach =
          lambda do |step|
            ends[step.id] ||= step.fixed ? step.fixed.to : begins(problem, step, by_id, reach) + step.minutes
          end
        job.steps.map { |step| reach.call(step) }.max || problem.start
      end

      def self.begins(problem, step, by_id, reach)
        [step.earliest, problem.start, *step.after.map { |id| reach.call(by_id.fetch(id)) }].max
      end

      # For each set of resources that steps must share: all of them as one that is as fast as they are together. No
      # order ends its first, second, ... job sooner than the shortest work first does, and lateness is least where the
      # earliest end meets the earliest promise (handbook: scheduling, exchange arguments, from memory).
      def self.crowds(problem)
        problem
          .steps
          .flat_map { |step| step.needs.map { |ids| [ids.sort, step] } }
          .group_by(&:first)
          .map { |ids, rows| crowd(problem, ids, rows.map(&:last)) }
      end

      def self.crowd(problem, ids, steps)
        work = steps.group_by(&:job).transform_values { |list| list.sum(&:minutes) }
        jobs = problem.jobs.select { |job| job.promised && work.key?(job.id) }
        done = 0.0
        ends =
          jobs.map { |job| work.fetch(job.id) }.sort.map { |minutes| problem.start + ((done += minutes) / ids.size) }
        ends.zip(jobs.map(&:promised).sort).sum { |finish, promised| [finish - promised, 0].max }.floor
      end
      private_class_method :begins, :crowds, :crowd
    end
  end
end
