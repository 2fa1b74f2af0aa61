# frozen_string_literal: true

require "json"

module Store
  # Writes what acts made: all entries of one act with the sheet, the promise, the summary and the form's token in one
  # transaction, or none of it. The only place that writes to a log.
  class ActStore
    # prefix: letter before the numbers of new jobs.
    def initialize(database, prefix: "J")
      @database = database
      @prefix = prefix
      @summaries = SummaryStore.new(database)
    end

    # Where a form that was already taken led to, or nil. token: of the form (what answers to_s, and digest where its
    # content is known), or nil. Raises OtherForm where it was taken with other content.
    def landing(token)
      row = token && @database[:form_tokens].first(token: token.to_s) or return
      raise OtherForm if row[:digest] && digest(token) && row[:digest] != digest(token)

      row[:landing]
    end

    # Takes a vehicle in. record: Gadwall::Job::Record without id and number; entries: Array of Entry; by: who; at: ISO
    # 8601 text; token: of the form, or nil. The block gets the Record with its number and returns [Summary, landing].
    # Returns the Record, or nil where the form was already taken. Raises Gadwall::InputError where the database refuses
    # a field.
    def create(record, entries, by:, at:, token: nil)
      @database.transaction(mode: :immediate) do
        next nil if landing(token)

        made = insert_job(record)
        append(made, entries, 0, by, at)
        summary, landing = yield made
        @summaries.write(made, summary, entries.size)
        remember(token, made, landing, at)
        made
      end
    rescue Sequel::CheckConstraintViolation => error
      raise refused(error, record)
    end

    # Adds what an act made. job: Record as it is to be kept; entries: Array of Entry, not stamped; seen: seq of the
    # last entry that the act was checked against; summary: Summary with them; causes: of a hand-over; landing: where
    # the form leads. Returns :written; :repeated where the form was already taken; :moved_on where others wrote since
    # `seen`, so that the act is to be checked again.
    def write(job, entries, seen:, summary:, by:, at:, causes: [], token: nil, landing: "/")
      @database.transaction(mode: :immediate) do
        next :repeated if landing(token)
        next :moved_on unless (@database[:entries].where(job_id: job.id).max(:seq) || 0) == seen

        append(job, entries, seen, by, at)
        @database[:jobs].where(id: job.id).update(vehicle: JSON.generate(job.vehicle), promised_at: job.promised_at)
        close(job, causes, at)
        revoke(job, at) if entries.any? { |entry| entry.respond_to?(:repeats?) && entry.repeats? }
        @summaries.write(job, summary, seen + entries.size)
        remember(token, job, landing, at)
        :written
      end
    end

    private

    REFUSALS = {
      "customer_is_named" => ["customer", "a name of 1 to 200 letters"],
      "complaint_is_told" => ["complaint", "what the customer says, up to 4000 letters"]
    }.freeze

    def refused(error, record)
      name = REFUSALS.keys.find { |key| error.message.include?(key) }
      field, expected = REFUSALS.fetch(name, ["vehicle", "a sheet that can be stored"])
      given = field == "customer" ? record.customer : record.complaint
      Gadwall::InputError.new(field: field, given: given, expected: expected)
    end

    def insert_job(record)
      jobs = JobStore.new(@database, prefix: @prefix)
      number = jobs.next_number
      fields = record.to_h.slice(:customer, :complaint, :taken_in_at, :promised_at)
      id = @database[:jobs].insert(number: number, vehicle: JSON.generate(record.vehicle), **fields)
      jobs.by_id(id)
    end

    def append(job, entries, last, by, at)
      entries.each_with_index do |entry, i|
        @database[:entries].insert(
          job_id: job.id,
          seq: last + i + 1,
          kind: entry.kind,
          version: entry.version,
          payload: JSON.generate(entry.data),
          at: at,
          by: by
        )
      end
    end

    def close(job, causes, at)
      causes.each do |cause|
        row = { job_id: job.id, template: cause["template"], fault: cause["fault"], closed_at: at }
        @database[:closed_cases].insert(**row)
      end
    end

    # It came back: what was taken for its cause was not, or not the whole of it.
    def revoke(job, at)
      @database[:closed_cases].where(job_id: job.id, revoked_at: nil).update(revoked_at: at)
    end

    def remember(token, job, landing, at)
      return unless token

      row = { token: token.to_s, digest: digest(token), job_id: job.id, landing: landing, at: at }
      @database[:form_tokens].insert(**row)
    end

    def digest(token)
      token.respond_to?(:digest) ? token.digest : nil
    end
  end
end
