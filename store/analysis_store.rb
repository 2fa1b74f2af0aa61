# frozen_string_literal: true

require "json"

module Store
  # Analyses of captures that run in the background, so that they survive a restart.
  class AnalysisStore
    # id: token of the form that began it; options: as `bin/gadwall capture` takes them; progress: 0..1; message: why it
    # failed; capture_id: once done.
    Analysis =
      Struct.new(
        :id,
        :job_id,
        :name,
        :circuit,
        :options,
        :state,
        :progress,
        :message,
        :capture_id,
        :at,
        keyword_init: true
      ) do
        def over?
          %w[done failed cancelled].include?(state)
        end
      end

    OPEN = %w[waiting running].freeze

    def initialize(database)
      @database = database
    end

    # Analyses of a job that a page still shows: those that wait, run or failed, newest first.
    def for_job(job)
      rows.where(job_id: job.id, state: OPEN + ["failed"]).reverse(:at).map { |row| analysis(row) }
    end

    # Analysis or nil.
    def find(id)
      row = rows.first(id: id.to_s)
      row && analysis(row)
    end

    # Those that wait or were running, oldest first: what a restart has to take up again.
    def unfinished
      rows.where(state: OPEN).order(:at).map { |row| analysis(row) }
    end

    # How many wait or run.
    def open_count
      rows.where(state: OPEN).count
    end

    # Begins one. Returns the Analysis, or nil where a repeated form had begun it.
    def begin(id, job, name:, circuit:, options:, at:)
      row = { id: id, job_id: job.id, name: name, circuit: circuit, options: JSON.generate(options), at: at }
      rows.insert(**row, state: "waiting")
      find(id)
    rescue Sequel::UniqueConstraintViolation
      nil
    end

    def running(id)
      change(id, OPEN, state: "running")
    end

    # share: 0..1.
    def progress(id, share)
      change(id, ["running"], progress: share)
    end

    def failed(id, message)
      change(id, OPEN, state: "failed", message: message)
    end

    # A cancelled one stays cancelled, whatever its process still says. Returns true where it was open or had failed.
    def cancel(id)
      change(id, OPEN + ["failed"], state: "cancelled")
    end

    # Stores the capture and ends the analysis together, unless it was cancelled meanwhile. The block stores and returns
    # the capture's id.
    def done(id)
      @database.transaction(mode: :immediate) do
        next false unless change(id, OPEN, state: "done", progress: 1.0)

        rows.where(id: id).update(capture_id: yield)
        true
      end
    end

    private

    def rows
      @database[:analyses]
    end

    def change(id, states, **fields)
      rows.where(id: id, state: states).update(**fields) == 1
    end

    def analysis(row)
      Analysis.new(**row.except(:options), options: JSON.parse(row[:options])).freeze
    end
  end
end
