# frozen_string_literal: true

require "json"

module Store
  # Jobs, by number.
  class JobStore
    COLUMNS = %i[id number customer complaint taken_in_at promised_at vehicle].freeze

    # prefix: letter before the numbers of its jobs.
    def initialize(database, prefix: "J")
      @database = database
      @prefix = prefix
    end

    # Newest first: Array of Gadwall::Job::Record.
    def all
      jobs.reverse(:id).map { |row| record(row) }
    end

    # Is there no job yet?
    def none?
      @database[:jobs].empty?
    end

    # Ids of all jobs, oldest first.
    def ids
      jobs.order(:id).select_map(:id)
    end

    # number: text such as "J101". Returns a Gadwall::Job::Record. Raises NotFound.
    def find(number)
      row = jobs.first(number: number.to_s) or raise NotFound, number
      record(row)
    end

    # id: Integer. Returns a Gadwall::Job::Record. Raises NotFound.
    def by_id(id)
      row = jobs.first(id: id) or raise NotFound, id
      record(row)
    end

    # Other jobs of the same vehicle, by VIN or number plate, newest first: Array of Gadwall::Job::Record.
    def of_vehicle(record)
      same = { "vin" => record.vehicle["vin"], "plate" => record.plate }.reject { |_, value| value.to_s.empty? }
      return [] if same.empty?

      alike = same.map { |name, value| Sequel.function(:json_extract, :vehicle, "$.#{name}") =~ value }
      jobs.exclude(id: record.id).where(alike.reduce(:|)).reverse(:id).limit(20).map { |row| self.record(row) }
    end

    # The number that the next job gets.
    def next_number
      format("#{@prefix}%03d", (jobs.max(:id) || 0) + 101)
    end

    private

    def jobs
      @database[:jobs].select(*COLUMNS)
    end

    def record(row)
      Gadwall::Job::Record.new(**row.except(:vehicle), vehicle: JSON.parse(row[:vehicle]).freeze).freeze
    end
  end
end
