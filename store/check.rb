# frozen_string_literal: true

require "sqlite3"

module Store
  # SQLite's quick_check, which reads the whole file, in a process of its own: it runs while the application loads.
  class Check
    QUERY = "PRAGMA quick_check(1)"

    # path: of the file. Returns a Check that has begun; nil where there is no file yet.
    def self.begin(path)
      new(path) if File.size?(path)
    end

    def initialize(path)
      @reader, writer = IO.pipe
      @pid =
        fork do
          @reader.close
          writer.write(verdict_of(path))
          writer.close
          exit!
        end
      writer.close
    end

    # "ok", or what is wrong. Waits for it.
    def verdict
      @verdict ||=
        begin
          text = @reader.read
          Process.wait(@pid)
          text.empty? ? "the check ended early" : text
        end
    end

    private

    def verdict_of(path)
      SQLite3::Database.new(path, readonly: true) { |database| return database.get_first_value(QUERY) }
    rescue SQLite3::Exception => error
      error.message
    end
  end
end
