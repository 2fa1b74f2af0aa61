# frozen_string_literal: true

require "json"

module Gadwall
  # A whole job as JSON: docs/formats/case.schema.json says what may stand in it, docs/formats/case.md explains it.
  class CaseFile
    VERSION = 1
    SCHEMA = File.join(ROOT, "docs/formats/case.schema.json")

    attr_reader :data, :system, :log

    # text: JSON; models: as for Vehicle::System.build. Raises InputError, one sentence that names the place. Nothing is
    # half read.
    def self.parse(text, models: Vehicle::ModelCache.new)
      of(Quantity::Decimal.json(text, field: "case", fix: "See docs/formats/case.md."), models: models)
    end

    # data: what the JSON holds. Raises InputError as `parse`.
    def self.of(data, models: Vehicle::ModelCache.new)
      limit(data)
      SchemaCheck.for(SCHEMA).check(data)
      new(data, models: models)
    end

    MOST_ENTRIES = 5000 # the longest job of a workshop has some hundred

    def self.limit(data)
      count = data.is_a?(Hash) && data["evidence"].is_a?(Array) ? data["evidence"].size : 0
      return if count <= MOST_ENTRIES

      raise InputError.new(field: "evidence", given: "#{count} entries", expected: "at most #{MOST_ENTRIES} entries")
    end
    private_class_method :limit

    def initialize(data, models: Vehicle::ModelCache.new)
      @data = data
      @system = Vehicle::System.build(Vehicle::Sheet.new(data.fetch("vehicle")), models: models)
      @log = Job::Log.new(data["evidence"] || [], system)
      @log.body # every entry is read once, so that a wrong one is told before anything is computed
    end

    # The diagnosis as a plain Hash: the fields of docs/formats/case.md, with `unread` where there is any.
    def assess
      AssessmentJSON.of(Diagnosis.assess(system, log.body)).merge(unread.empty? ? {} : { unread: unread })
    end

    # Entries that this version does not know: kept, told, and no evidence. Array of {entry:, kind:, version:}.
    def unread
      log
        .entries
        .grep(Job::Entries::Unknown)
        .map { |entry| { entry: entry.seq, kind: entry.kind, version: entry.version } }
    end

    # vehicle: Hash of the sheet; entries: the log; extra: job, customer and so on. Returns JSON text.
    def self.dump(vehicle:, entries:, extra: {})
      JSON.pretty_generate({ "gadwall_case" => VERSION, "job" => extra, "vehicle" => vehicle, "evidence" => entries })
    end
  end
end
