# frozen_string_literal: true

require "json"

module Store
  # The append-only log of each job. Entries go in and come out as Hashes with String keys, as in a case file.
  class EntryStore
    def initialize(database)
      @database = database
    end

    # In log order.
    def for_job(job)
      rows(job).order(:seq).map { |row| entry(row) }
    end

    # {job id => entries}, for the bay list: one query for all.
    def by_job
      @database[:entries].order(:job_id, :seq).all.group_by do |row|
 row[:job_id] end.transform_values do |rows| rows.map do |row|
 entry(row) end end
    end

    # What the shop's closed jobs turned out to be: {template id => {fault id => count}}, but for one job. Written at the
    # hand-over, so that a better engine does not change what was found.
    def closed_case_counts(except: nil)
      closed = @database[:entries].where(kind: "handover")
      closed = closed.exclude(job_id: except.id) if except
      causes = closed.select_map(:payload).flat_map { |payload| JSON.parse(payload)["causes"] || [] }
      causes.group_by { |cause| cause["template"] }.transform_values { |rows| rows.map { |row| row["fault"] }.tally }
    end

    # Writes one entry. seen: the last seq that the writer's page showed (nil: does not matter); token: of the form.
    # Returns :written, or :repeated for a form that was already taken. Raises Conflict when others wrote meanwhile.
    def append(job, entry, at:, by: "", seen: nil, token: nil)
      @database.transaction(mode: :immediate) do
        return :repeated if token && @database[:entries].where(form_token: token).any?

        last = rows(job).max(:seq) || 0
        raise(Conflict, rows(job).where { seq > seen }.order(:seq).map { |row| entry(row) }) if seen && last > seen

        @database[:entries].insert(job_id: job.id, seq: last + 1, kind: entry.fetch("kind"), payload: JSON.generate(entry.except("kind", "seq", "at", "by")),
                                   at: at, by: by, form_token: token)
        :written
      end
    end

    private

    def rows(job)
      @database[:entries].where(job_id: job.id)
    end

    def entry(row)
      JSON.parse(row[:payload]).merge("kind" => row[:kind], "seq" => row[:seq], "at" => row[:at], 
"by" => row[:by]).freeze
    end
  end
end
