# frozen_string_literal: true

require "base64"
require "json"

module Store
  # The whole shop as JSON lines (docs/formats/archive.md): a head, then every row of every table of the workshop and of
  # its practice bay, files with them. What is read back is what was written, to the letter.
  module Archive
    VERSION = 1
    # What a migrated database makes by itself, or what the program computes anew.
    OWN = %i[schema_info sqlite_sequence].freeze
    AT_ONCE = 200

    # path: of the database; io: to write to; made_at: ISO 8601 text. Returns how many rows. Raises Unusable.
    def self.write(path, io, made_at:)
      raise Backup::Failed, "There is no database at #{path}. Name it by GADWALL_DB." unless File.size?(path)

      io.puts JSON.generate("gadwall_archive" => VERSION, "made_at" => made_at, "schema" => Store.newest_schema)
      parts(path).sum do |part, file|
        database = Store.open(file)
        database.transaction { tables(database).sum { |table| rows(database, part, table, io) } }
      ensure
        database&.disconnect
      end
    end

    # Into databases that are not there yet. io: of an archive. Returns how many rows. Raises Backup::Failed.
    def self.read(path, io)
      if File.size?(path)
        raise Backup::Failed, "There is a database at #{path} already: an archive goes into an empty place."
      end

      head!(io.gets)
      databases = {}
      count = put(io) { |part| databases[part] ||= emptied(Store.open(part == "practice" ? "#{path}-practice" : path)) }
      databases.each_value { |database| sound!(database) }
      Store.open(path).disconnect unless databases.key?("workshop")
      count
    rescue JSON::ParserError, KeyError, Sequel::Error, ArgumentError => error
      databases&.each_value(&:disconnect)
      Store.remove(path)
      raise Backup::Failed, "This is no archive that can be read: #{error.message.lines.first.to_s.strip[0, 120]}."
    ensure
      databases&.each_value(&:disconnect)
    end

    def self.parts(path)
      { "workshop" => path, "practice" => "#{path}-practice" }.select { |_, file| File.size?(file) }
    end

    def self.tables(database)
      database.tables.sort - OWN
    end

    def self.rows(database, part, table, io)
      count = 0
      database[table]
        .order(Sequel.lit("rowid"))
        .each do |row|
          given = row.to_h { |name, value| written(name, value) }
          io.puts JSON.generate("part" => part, "table" => table.to_s, "row" => given)
          count += 1
        end
      count
    end

    # Bytes as base64, under a name of its own.
    def self.written(name, value)
      value.is_a?(Sequel::SQL::Blob) ? ["#{name}:base64", Base64.strict_encode64(value)] : [name.to_s, value]
    end

    def self.head!(line)
      head = JSON.parse(line.to_s)
      known = head.is_a?(Hash) && head["gadwall_archive"] == VERSION
      raise Backup::Failed, "This is no archive of a workshop." unless known
      return if head["schema"].to_i <= Store.newest_schema

      raise Backup::Failed, "This archive is of a newer Gadwall (schema #{head["schema"]}). Install that version first."
    end

    # A database whose tables hold what the program itself puts there.
    def self.emptied(database)
      database.run("PRAGMA foreign_keys = OFF")
      tables(database).each { |table| database[table].delete if database[table].any? }
      database
    end

    def self.put(io)
      count = 0
      waiting = []
      flush =
        lambda do
          waiting.group_by(&:first).each { |(database, table), rows| database[table].multi_insert(rows.map(&:last)) }
          waiting.clear
        end
      io.each_line do |line|
        next if line.strip.empty?

        given = JSON.parse(line)
        row = given.fetch("row").to_h { |name, value| read_back(name, value) }
        waiting << [[yield(given.fetch("part")), given.fetch("table").to_sym], row]
        flush.call if waiting.size >= AT_ONCE
        count += 1
      end
      flush.call
      count
    end

    def self.read_back(name, value)
      return name.to_sym, value unless name.end_with?(":base64")

      [name.delete_suffix(":base64").to_sym, Sequel::SQL::Blob.new(Base64.strict_decode64(value))]
    end

    # Every reference leads somewhere.
    def self.sound!(database)
      loose = database.fetch("PRAGMA foreign_key_check").first
      database.run("PRAGMA foreign_keys = ON")
      return unless loose

      raise ArgumentError, "a row of #{loose[:table]} belongs to nothing"
    end
    private_class_method :parts, :tables, :rows, :written, :head!, :emptied, :put, :read_back, :sound!
  end
end
