# frozen_string_literal: true

require_relative "store"

module Store
  # `bin/gadwall backup`, `restore`, `archive` and `unarchive`: the workshop's own. Status as of Gadwall::CLI::Runner.
  class CommandLine
    COMMANDS = %w[backup restore archive unarchive].freeze
    USAGE = <<~TEXT
      usage:
        gadwall backup FILE      a copy of the whole shop, also while it runs
        gadwall restore FILE     puts a copy back; what stood there is kept beside it
        gadwall archive FILE     the whole shop as JSON lines
        gadwall unarchive FILE   reads them into an empty place
      The database is the one of GADWALL_DB, else var/workshop.sqlite3.
    TEXT

    # path: of the database; clock: gives the Time that it is.
    def initialize(path, clock:, out: $stdout, err: $stderr)
      @path = path
      @clock = clock
      @out = out
      @err = err
    end

    # arguments: Array of String. Returns the exit status.
    def run(arguments)
      command, file, *rest = arguments
      unless COMMANDS.include?(command) && file && rest.empty? && !file.start_with?("-")
        @err.puts USAGE
        return 2
      end

      @out.puts JSON.pretty_generate(public_send(command, file))
      0
    rescue Gadwall::Error => error
      @err.puts error.message.gsub(/\s+/, " ")
      1
    end

    # A copy. Returns what it holds.
    def backup(file)
      Backup.write(@path, file, made_at: now)
    end

    # Puts a copy back. Returns what it holds, and where that is which it replaced.
    def restore(file)
      kept = "#{@path}.before-#{@clock.call.strftime("%Y%m%d-%H%M%S")}.gadwall"
      had = File.size?(@path)
      Backup.restore(file, @path, kept: kept, made_at: now).merge({ "replaced" => (kept if had) }.compact)
    end

    # Writes all rows.
    def archive(file)
      rows = writing(file) { |io| Archive.write(@path, io, made_at: now) }
      { "archive" => file, "rows" => rows }
    end

    # Reads all rows.
    def unarchive(file)
      rows = File.open(file, "r:UTF-8") { |io| Archive.read(@path, io) }
      { "database" => @path, "rows" => rows }
    rescue SystemCallError => error
      raise Backup::Failed, "#{file} cannot be read: #{error.message}."
    end

    private

    def now
      @clock.call.utc.strftime("%FT%TZ")
    end

    # Whole or not at all.
    def writing(file)
      unfinished = "#{file}.unfinished"
      done = File.open(unfinished, "w:UTF-8", 0o600) { |io| yield(io).tap { io.fsync } }
      File.rename(unfinished, file)
      done
    rescue SystemCallError => error
      raise Backup::Failed, "#{file} cannot be written: #{error.message}."
    ensure
      FileUtils.rm_f(unfinished) if unfinished
    end
  end
end
