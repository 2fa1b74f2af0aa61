# frozen_string_literal: true

module Store
  # How exercises of the practice bay ended, by learner.
  class PracticeResultStore
    COLUMNS = %i[learner exercise level family score minutes money ended at].freeze
    # A result. family: of the circuit that was at fault, or "none"; ended: "handed_back" or id of a danger.
    Result = Struct.new(:job_id, *COLUMNS, keyword_init: true)

    def initialize(database)
      @database = database
      @rows = database[:practice_results]
    end

    # result: Result. What stands for a job stays.
    def add(result)
      @rows.insert_conflict.insert(result.to_h)
    end

    # Of one learner, oldest first: Array of Result. Of everybody, where nil.
    def of(learner = nil)
      rows = @rows.select(:job_id, *COLUMNS).order(:at, :id)
      rows = rows.where(learner: learner) if learner
      rows.map { |row| Result.new(**row).freeze }
    end

    # Ids of jobs that were begun and have not ended, the newest first; so many at most.
    def unfinished(most)
      @database[:stands].exclude(job_id: @rows.select(:job_id)).reverse(:id).limit(most).select_map(:job_id)
    end

    # Is none there yet?
    def none?
      @rows.empty?
    end
  end
end
