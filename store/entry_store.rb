# frozen_string_literal: true

require "json"

module Store
  # The append-only log of each job, read. Written by ActStore alone.
  class EntryStore
    def initialize(database)
      @database = database
    end

    # job: Gadwall::Job::Record. Returns its entries in log order: Array of Gadwall::Job::Entries::Entry.
    def for_job(job)
      rows(job).order(:seq).map { |row| entry(row) }
    end

    # Its entries of one kind, in log order.
    def of_kind(job, kind)
      rows(job).where(kind: kind).order(:seq).map { |row| entry(row) }
    end

    # seq of the last entry; 0 for none.
    def last_seq(job)
      rows(job).max(:seq) || 0
    end

    # Entries after a seq.
    def since(job, seq)
      rows(job).where { Sequel[:seq] > seq }.order(:seq).map { |row| entry(row) }
    end

    private

    def rows(job)
      @database[:entries].where(job_id: job.id)
    end

    def entry(row)
      stamps = row.slice(:kind, :version, :seq, :at, :by).transform_keys(&:to_s)
      Gadwall::Job::Entries.stored(JSON.parse(row[:payload]).merge(stamps))
    end
  end
end
