# frozen_string_literal: true

require "fileutils"

# The database: what is kept, and how it is opened.
module Store
  # The database cannot be used: damaged, of another program, not writable, the disk full. One sentence, and what to do.
  class Unusable < Gadwall::Error
  end

  MIGRATIONS = File.join(__dir__, "migrate")
  # "GADW" as SQLite keeps it in the header, so that a database of another program is not taken for ours.
  APPLICATION_ID = 0x47414457
  BUSY_MS = 5000

  # path: of the SQLite file, or nil for memory; check: Check of it that has begun, nil to check here. Returns a
  # migrated Sequel::Database. Raises Unusable.
  def self.open(path, check: nil)
    database = nil
    Sequel.extension :migration
    guard(path) do
      keep_private(path) if path
      database = connect(path)
      prepare(database, path, check)
      database
    end
  rescue StandardError
    database&.disconnect
    raise
  end

  # Nobody else on the machine reads a customer's name: the file and its journal are the owner's alone. SQLite gives its
  # journals the rights of the file.
  def self.keep_private(path)
    File.open(path, File::RDWR | File::CREAT, 0o600, &:size)
    ["", "-wal", "-shm"].each { |tail| File.chmod(0o600, "#{path}#{tail}") if File.exist?("#{path}#{tail}") }
    folder = "#{path}-analyses"
    File.chmod(0o700, folder) if File.directory?(folder)
  rescue SystemCallError
    nil # what is wrong with the path, SQLite says
  end

  # Removes a database with everything beside it: its journal, running analyses and the practice bay; the key of its
  # sessions stays. path: of the file, whose lock the caller holds.
  def self.remove(path)
    tails = ["", "-wal", "-shm", "-analyses", "-uploads", "-tables", "-pages"]
    FileUtils.rm_rf(["", "-practice"].product(tails).map { |beside, tail| "#{path}#{beside}#{tail}" })
  end

  # One connection: SQLite's busy wait holds Ruby's lock, so two threads of one process would wait for each other. The
  # pool queues them instead; the timeout serves other processes.
  def self.connect(path)
    Sequel.sqlite(path, timeout: BUSY_MS, max_connections: 1)
  end

  # FULL: what was confirmed on a page survives a power cut.
  def self.prepare(database, path, check)
    check(database, path, check) if path
    database.run("PRAGMA journal_mode = WAL") if path
    database.run("PRAGMA synchronous = FULL")
    database.run("PRAGMA foreign_keys = ON")
    keep_before_migrating(database, path) if path
    Sequel::Migrator.run(database, MIGRATIONS)
    database.run("PRAGMA application_id = #{APPLICATION_ID}") unless application_id(database) == APPLICATION_ID
    know_kinds(database)
    database[:schema_info].update(version: Sequel[:version]) # a file that cannot be written says so now
  end

  # An upgrade that is not liked can be backed out: what it changes is copied first, beside the database.
  def self.keep_before_migrating(database, path)
    return if database.tables.empty? || Sequel::Migrator.is_current?(database, MIGRATIONS)

    schema = database[:schema_info].get(:version)
    made_at = File.mtime(path).utc.strftime("%FT%TZ")
    Backup.write_one(path, "#{path}.schema-#{schema}.gadwall", made_at: made_at)
  end

  def self.check(database, path, begun)
    tables = database.tables
    ours = [0, APPLICATION_ID].include?(application_id(database)) && (tables.empty? || tables.include?(:schema_info))
    raise Unusable, "#{path} is a database of another program. Set GADWALL_DB to another file." unless ours

    verdict = begun ? begun.verdict : database.fetch(Check::QUERY).single_value
    return if verdict == "ok"

    first = verdict.to_s.lines.first.to_s.strip[0, 120]
    raise Unusable, "#{path} is damaged (#{first}). Put back a copy that was saved, or set GADWALL_DB to another file."
  end

  def self.application_id(database)
    database.fetch("PRAGMA application_id").single_value
  end

  # Kinds that this version of the program knows; those of other versions stay.
  def self.know_kinds(database)
    missing = Gadwall::Job::Entries::KINDS - database[:entry_kinds].select_map(:kind)
    database[:entry_kinds].multi_insert(missing.map { |kind| { kind: kind } }) if missing.any?
  end

  # Number of the newest migration that this program knows.
  def self.newest_schema
    Dir[File.join(MIGRATIONS, "*.rb")].map { |file| File.basename(file).to_i }.max
  end

  # What SQLite could not write, in words; nil for an error that says nothing of the disk. error: of Sequel.
  def self.unwritten(error)
    return unless error.message.match?(/full|no space|readonly|read-only|attempt to write|I.O error/i)

    Unusable.new(reason("the database", error))
  end

  # SQLite's reasons in words. The block may raise Sequel's or SQLite's own errors.
  def self.guard(path)
    yield
  rescue Sequel::DatabaseError, SQLite3::Exception, SystemCallError => error
    raise Unusable, reason(path, error)
  end

  REASONS = {
    /not a database|malformed|corrupt/i =>
      "%s is damaged or no SQLite database. Put back a copy that was saved, or set GADWALL_DB to another file.",
    /readonly|read-only|attempt to write/i => "%s cannot be written. Make the file and its folder writable.",
    /disk is full|no space|full/i => "The disk is full: %s cannot be written. Free some space, then try again.",
    /unable to open/i => "%s cannot be opened. Make sure that its folder exists and can be written.",
    /locked|busy/i => "%s is in use by another program that does not let go. Stop it, then start again."
  }.freeze

  def self.reason(path, error)
    sentence = REASONS.find { |pattern, _| error.message.match?(pattern) }&.last
    sentence ? format(sentence, path) : "#{path} cannot be used: #{error.message.lines.first.to_s.strip[0, 160]}."
  end
  private_class_method :connect, :keep_private, :prepare, :keep_before_migrating, :check, :application_id
  private_class_method :know_kinds, :reason
end
