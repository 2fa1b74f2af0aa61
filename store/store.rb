# frozen_string_literal: true

require "sequel"
require "gadwall"

# What is kept: jobs and their logs, in SQLite. Returns and takes core values; computes nothing.
module Store
  # The log moved on since the page was made: someone else wrote to the same job.
  class Conflict < Gadwall::Error
    attr_reader :entries

    # entries: what was written meanwhile.
    def initialize(entries)
      @entries = entries
      super("Another browser wrote to this job meanwhile (#{entries.size} #{entries.size == 1 ? 'entry' : 'entries'}). Yours is kept here: look at what changed, then send it again.")
    end
  end

  # No job of that number, no template of that name.
  class NotFound < Gadwall::Error
    def initialize(number, kind: "job")
      super("There is no #{kind} #{number.to_s[0, 20]}. The bay list shows all jobs that are known.")
    end
  end

  MIGRATIONS = File.join(__dir__, "migrate")

  # path: of the SQLite file, or nil for memory. Returns a migrated, frozen-for-schema Sequel::Database.
  def self.open(path)
    Sequel.extension :migration
    # One connection: SQLite's busy wait holds Ruby's lock, so two threads of one process would wait for each other. The
    # pool queues them instead; the timeout serves other processes.
    database = Sequel.sqlite(path, timeout: 5000, max_connections: 1)
    database.run("PRAGMA journal_mode = WAL") if path
    database.run("PRAGMA foreign_keys = ON")
    Sequel::Migrator.run(database, MIGRATIONS)
    database
  end
end

require_relative "job_store"
require_relative "entry_store"
require_relative "code_word_store"
require_relative "template_store"
require_relative "capture_store"
require_relative "live_column_store"
