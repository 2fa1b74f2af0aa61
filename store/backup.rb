# frozen_string_literal: true

require "digest"
require "fileutils"
require "json"
require "rubygems/package"
require "sqlite3"
require "tmpdir"

module Store
  # A copy of the whole shop in one file, made and put back while a server runs (docs/formats/backup.md): the workshop's
  # database and that of its practice bay, by SQLite's online backup, with a manifest of their sums.
  module Backup
    # The copy cannot be made, read or put back. One sentence, and what to do.
    class Failed < Gadwall::Error
    end

    VERSION = 1
    MANIFEST = "manifest.json"
    FILES = { "workshop.sqlite3" => "", "practice.sqlite3" => "-practice" }.freeze
    PAGES = 2000 # copied at once, so that writers come between
    BUSY_MS = 10_000

    # path: of the database; file: of the copy, which is written whole or not at all; made_at: ISO 8601 text. Returns
    # the manifest. Raises Failed.
    def self.write(path, file, made_at:, files: FILES)
      raise Failed, "There is no database at #{path}. Name it by GADWALL_DB." unless File.size?(path)

      Dir.mktmpdir do |folder|
        parts = files.select { |_, tail| File.size?("#{path}#{tail}") }
        parts.each { |name, tail| copy("#{path}#{tail}", File.join(folder, name)) }
        manifest = manifest_of(folder, parts.keys, made_at)
        pack(folder, parts.keys, manifest, file)
        verified(file)
        manifest
      end
    rescue SystemCallError, SQLite3::Exception => error
      raise Failed, "No copy was made at #{file}: #{error.message.strip}."
    end

    # The same of one database, without the one beside it, which has a copy of its own.
    def self.write_one(path, file, made_at:)
      write(path, file, made_at: made_at, files: FILES.slice("workshop.sqlite3"))
    end

    # file: of a copy. Returns its manifest. Raises Failed for one that is damaged or of something else.
    def self.verified(file)
      Dir.mktmpdir { |folder| unpacked(file, folder) }
    end

    # Puts a copy back in place of the databases at path; what stands there is kept beside them as a copy of its own.
    # kept: path of that copy. Returns the manifest. Raises Failed; then all stands as it stood.
    def self.restore(file, path, kept:, made_at:)
      Dir.mktmpdir do |folder|
        manifest = unpacked(file, folder)
        older!(manifest)
        keep(path, kept, made_at)
        manifest["files"].each_key { |name| copy(File.join(folder, name), "#{path}#{FILES.fetch(name)}") }
        manifest
      end
    rescue SystemCallError, SQLite3::Exception => error
      raise Failed, "Nothing was put back from #{file}: #{error.message.strip}."
    end

    # What stands there as a copy; what is no database any more is moved aside as it is.
    def self.keep(path, kept, made_at)
      write(path, kept, made_at: made_at) if File.size?(path)
    rescue Failed
      FILES.each_value do |tail|
        ["", "-wal", "-shm"].map { |more| "#{path}#{tail}#{more}" }
          .each { |file| FileUtils.mv(file, "#{file}.damaged") if File.exist?(file) }
      end
    end

    # One database into another, page by page, whoever reads and writes meanwhile.
    def self.copy(from, to)
      FileUtils.mkdir_p(File.dirname(to), mode: 0o700)
      source = SQLite3::Database.new(from, readonly: true)
      target = SQLite3::Database.new(to)
      [source, target].each { |each| each.busy_timeout(BUSY_MS) }
      backup = SQLite3::Backup.new(target, "main", source, "main")
      step(backup)
      backup.finish
      File.chmod(0o600, to)
    ensure
      [source, target].compact.each(&:close)
    end

    TRIES = 400
    PAUSE_S = 0.025

    def self.step(backup)
      tries = 0
      loop do
        case backup.step(PAGES)
        when SQLite3::Constants::ErrorCode::DONE
          break
        when SQLite3::Constants::ErrorCode::OK
          tries = 0
        else
          raise Failed, "The database is in use and does not let go. Try again." if (tries += 1) > TRIES

          sleep PAUSE_S
        end
      end
    end

    def self.manifest_of(folder, names, made_at)
      {
        "gadwall_backup" => VERSION,
        "made_at" => made_at,
        "schema" => schema(File.join(folder, names.first)),
        "files" =>
          names.to_h do |name|
            path = File.join(folder, name)
            [name, { "bytes" => File.size(path), "sha256" => Digest::SHA256.file(path).hexdigest }]
          end
      }
    end

    # Number of the last migration that a database has had.
    def self.schema(path)
      SQLite3::Database.new(path, readonly: true) do |database|
        return database.get_first_value("SELECT version FROM schema_info")
      end
    end

    def self.older!(manifest)
      return if manifest["schema"].to_i <= Store.newest_schema

      raise Failed,
            "This copy is of a newer Gadwall (schema #{manifest["schema"]}, this one knows #{Store.newest_schema}). " \
              "Install that version first."
    end

    def self.pack(folder, names, manifest, file)
      FileUtils.mkdir_p(File.dirname(File.expand_path(file)))
      unfinished = "#{file}.unfinished"
      File.open(unfinished, "wb", 0o600) do |io|
        Gem::Package::TarWriter.new(io) do |tar|
          tar.add_file(MANIFEST, 0o600) { |entry| entry.write(JSON.pretty_generate(manifest)) }
          names.each do |name|
            path = File.join(folder, name)
            tar.add_file_simple(name, 0o600, File.size(path)) { |entry| IO.copy_stream(path, entry) }
          end
        end
        io.fsync
      end
      File.rename(unfinished, file)
    ensure
      FileUtils.rm_f(unfinished) if unfinished
    end

    # Into a folder, with every sum and every database looked at.
    def self.unpacked(file, folder)
      File.open(file, "rb") do |io|
        Gem::Package::TarReader.new(io) do |tar|
          tar.each do |entry|
            next unless entry.file? && (entry.full_name == MANIFEST || FILES.key?(entry.full_name))

            IO.copy_stream(entry, File.join(folder, entry.full_name))
          end
        end
      end
      checked(file, folder)
    rescue Gem::Package::TarInvalidError, Gem::Package::Error, ArgumentError, NoMethodError, EOFError
      raise Failed, damaged(file)
    rescue SystemCallError => error
      raise Failed, "#{file} cannot be read: #{error.message}."
    end

    def self.checked(file, folder)
      path = File.join(folder, MANIFEST)
      raise Failed, "#{file} is no copy of a workshop." unless File.file?(path)

      manifest = JSON.parse(File.read(path))
      known = manifest.is_a?(Hash) && manifest["gadwall_backup"] == VERSION && manifest["files"].is_a?(Hash)
      raise Failed, "#{file} is a copy of a kind that this version does not know." unless known

      manifest["files"].each { |name, said| whole!(file, File.join(folder, name), said) }
      manifest
    rescue JSON::ParserError
      raise Failed, damaged(file)
    end

    def self.whole!(file, path, said)
      sum = File.file?(path) && Digest::SHA256.file(path).hexdigest
      raise Failed, damaged(file) unless sum == said["sha256"]

      verdict = SQLite3::Database.new(path, readonly: true) { |database| break database.get_first_value(Check::QUERY) }
      raise Failed, "#{damaged(file)} (#{verdict})" unless verdict == "ok"
    end

    def self.damaged(file)
      "#{file} is damaged: it is not what was written. Take another copy."
    end
    private_class_method :keep,
                         :copy,
                         :step,
                         :manifest_of,
                         :schema,
                         :older!,
                         :pack,
                         :unpacked,
                         :checked,
                         :whole!,
                         :damaged
  end
end
