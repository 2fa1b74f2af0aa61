# frozen_string_literal: true

module Gadwall
  module Scheduling
    # What differs between the day as it was planned and as it is planned now, in a sentence.
    module Change
      WORTH_TELLING = 10 # minutes

      # before: {job id => minutes at which it was to be done}; after: Schedule. Returns a sentence, nil where nothing
      # worth telling moved.
      def self.words(before, after)
        moved =
          after.problem.jobs.filter_map do |job|
            was = before[job.id] or next
            now = after.done_at(job.id)
            [job.id, was, now] if (now - was).abs >= WORTH_TELLING
          end
        return if moved.empty?

        told = moved.sort_by { |_, was, now| -(now - was).abs }.first(3).map { |id, was, now| one(id, was, now, after) }
        more = moved.size > 3 ? ", and #{moved.size - 3} more" : ""
        "#{told.join("; ")}#{more}."
      end

      def self.one(id, was, now, after)
        late = after.late.fetch(id, 0)
        tail = late.positive? ? ", #{late} min late" : ""
        "#{id} done #{Clock.text(now)} instead of #{Clock.text(was)}#{tail}"
      end
      private_class_method :one
    end
  end
end
