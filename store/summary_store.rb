# frozen_string_literal: true

require "json"

module Store
  # The summaries of all jobs: what lists and search read. Written with each act (ActStore), and renewed where a newer
  # version of the engine makes them stale.
  class SummaryStore
    # A line of a list: the job, its Gadwall::Job::Summary, and its name and plate.
    Listed = Struct.new(:id, :number, :name, :plate, :customer, :summary, keyword_init: true)
    JSON_COLUMNS = %i[waits open_points places change].freeze
    TEXT_COLUMNS = %i[stage sentence next_action suspect since promised_at watch_from watch_until trouble engine].freeze
    # What a list shows; the moves of suspects are read with the job alone.
    LISTED = (TEXT_COLUMNS + %i[job_id closed waits open_points codes minutes]).freeze

    def initialize(database)
      @database = database
    end

    # The Summary of a job, or nil where none was written yet. job: Gadwall::Job::Record.
    def find(job)
      row = rows.first(job_id: job.id)
      row && summary(row)
    end

    # What stands over the pages of a job: Gadwall::Job::Head as it was written with its last entry, nil where that was
    # by another engine or not written. seq: of the last entry.
    def head(job, seq, engine)
      row = rows.where(job_id: job.id, seq: seq, engine: engine).exclude(off_road: nil).first
      row && Gadwall::Job::Head.new(**row.slice(:stage, :sentence, :next_action), **decoded_head(row)).freeze
    end

    # In place of the job's earlier one. seq: of the last entry that it covers.
    def write(job, summary, seq)
      row = encoded(summary).merge(search: search_text(job, summary), seq: seq)
      rows.insert_conflict(target: :job_id, update: row).insert(job_id: job.id, **row)
    end

    # The same for a summary computed outside an act: only where the log has not moved on since. Returns true if
    # written.
    def renew(job, summary, seq)
      @database.transaction(mode: :immediate) do
        last = @database[:entries].where(job_id: job.id).max(:seq) || 0
        next false unless last == seq

        write(job, summary, seq)
        true
      end
    end

    # Ids of jobs whose summary is missing, or of another engine, oldest first. Closed jobs stay as they were written.
    def stale_ids(engine, limit: 1000)
      open = @database[:jobs].left_join(:job_summaries, job_id: :id)
      open
        .where(Sequel[:job_summaries][:job_id] => nil)
        .or(Sequel.~(engine: engine) & { closed: 0 })
        .order(Sequel[:jobs][:id])
        .limit(limit)
        .select_map(Sequel[:jobs][:id])
    end

    # Ids of open jobs, those that changed last first. limit: so many.
    def lately_open_ids(limit)
      rows.where(closed: 0).reverse(:since, :job_id).limit(limit).select_map(:job_id)
    end

    # Jobs in the workshop: Array of Listed, in no order. limit: so many at most, those that changed last.
    def open(limit: 2000)
      listed(rows.where(closed: 0).reverse(:since).limit(limit))
    end

    # Vehicles that left and are watched: Array of Listed, what is due first. limit: so many at most.
    def watched(limit: 40)
      listed(rows.exclude(watch_until: nil).order(:watch_until).limit(limit)).sort_by do |each|
        each.summary.watch_until
      end
    end

    # closed: true or false. Returns how many such jobs there are, that match `text` where one is given.
    def count(closed:, text: nil)
      matching(rows.where(closed: closed ? 1 : 0), text).count
    end

    # A page of closed jobs, the last closed first. text: part of a number, name, plate, customer or DTC; or nil.
    def closed(offset:, limit:, text: nil)
      listed(matching(rows.where(closed: 1), text).reverse(:since).limit(limit, offset))
    end

    private

    def rows
      @database[:job_summaries]
    end

    def matching(dataset, text)
      words = text.to_s.downcase.split.first(6)
      words.reduce(dataset) { |found, word| found.where(Sequel.like(:search, "%#{found.escape_like(word)}%")) }
    end

    def listed(dataset)
      found = dataset.select(*LISTED).all
      jobs =
        @database[:jobs]
          .where(id: found.map { |row| row[:job_id] })
          .select(
            :id,
            :number,
            :customer,
            Sequel.lit("json_extract(vehicle, '$.name')").as(:name),
            Sequel.lit("json_extract(vehicle, '$.plate')").as(:plate)
          )
          .as_hash(:id)
      found.map { |row| Listed.new(**jobs.fetch(row[:job_id]), summary: summary(row)).freeze }
    end

    def encoded(summary)
      texts = TEXT_COLUMNS.to_h { |name| [name, summary[name]] }
      json = JSON_COLUMNS.to_h { |name| [name, summary[name].nil? ? nil : JSON.generate(summary[name])] }
      texts.merge(
        json,
        closed: summary.closed ? 1 : 0,
        codes: summary.codes.join(" "),
        minutes: summary.minutes,
        decidable: summary.decidable ? 1 : 0,
        off_road: JSON.generate(summary.off_road)
      )
    end

    def summary(row)
      json = JSON_COLUMNS.to_h { |name| [name, row[name] && JSON.parse(row[name])] }
      Gadwall::Job::Summary.new(
        **row.slice(*TEXT_COLUMNS),
        **json,
        closed: row[:closed] == 1,
        codes: row[:codes].split,
        minutes: row[:minutes],
        **decoded_head(row)
      ).freeze
    end

    def decoded_head(row)
      { decidable: row[:decidable] == 1, off_road: row[:off_road] && JSON.parse(row[:off_road]).freeze }
    end

    def search_text(job, summary)
      [job.number, job.vehicle_name, job.plate, job.vehicle["vin"], job.customer, *summary.codes].compact
        .join(" ")
        .downcase
    end
  end
end
