# frozen_string_literal: true

require "json"

module Store
  # Vehicles that jobs are connected to, as the list of what was done to them.
  class StandStore
    # id: Integer; source: Hash (an exercise's row, or what else the vehicle is made of).
    Kept = Struct.new(:id, :source, :at, :by, keyword_init: true)

    def initialize(database)
      @database = database
    end

    # Of a job, or nil. record: Gadwall::Job::Record.
    def find(record)
      row = @database[:stands].first(job_id: record.id) or return
      Kept.new(id: row[:id], source: JSON.parse(row[:source]), at: row[:at], by: row[:by]).freeze
    end

    # Connects a job to a vehicle. source: Hash; by: who; at: ISO 8601 text. Returns Kept; what is connected stays.
    def connect(record, source, by:, at:)
      row = { job_id: record.id, source: JSON.generate(source), at: at, by: by.to_s }
      @database[:stands].insert_conflict.insert(row)
      find(record)
    end

    # Acts done to it, in order: [Hash, ...]. kept: Kept.
    def acts(kept)
      @database[:stand_acts].where(stand_id: kept.id).order(:seq).select_map(:payload).map { |text| JSON.parse(text) }
    end

    # How many there are.
    def count(kept)
      @database[:stand_acts].where(stand_id: kept.id).count
    end

    # Adds one. seq: its number, from 1. Returns whether it was written: not, where another came before.
    def add(kept, act, seq:, by:, at:)
      @database[:stand_acts].insert(stand_id: kept.id, seq: seq, payload: JSON.generate(act), at: at, by: by.to_s)
      true
    rescue Sequel::UniqueConstraintViolation
      false
    end
  end
end
