# frozen_string_literal: true

require "digest"
require "fileutils"

module Store
  # Where tables of wirings are put away: a folder beside the database, one file for each wiring. They are computed from
  # data/ and the code that reads it: those of another version are of no use, and go.
  class TableFolder
    ROOMS = %w[circuits tests quantity knowledge vehicle].freeze # of the core: the code that tables are computed by

    # path: of the folder, made where it is missing.
    def initialize(path)
      @folder = File.join(path, TableFolder.version)
      FileUtils.mkdir_p(@folder, mode: 0o700)
      (Dir[File.join(path, "*")] - [@folder]).each { |old| FileUtils.rm_rf(old) }
    end

    # Version of everything that tables depend on: the knowledge, and the code that computes them.
    def self.version
      @version ||=
        begin
          code = ROOMS.flat_map { |room| files_of(room) }.map { |file| File.binread(file) }
          Digest::SHA256.hexdigest([Gadwall::Knowledge.fingerprint, RUBY_VERSION, *code].join("\0"))[0, 16]
        end
    end

    # Paths of a room's files, in order.
    def self.files_of(room)
      Dir[File.join(Gadwall::ROOT, "lib/gadwall", room, "**/*.rb")]
    end

    # Bytes under a key, or nil.
    def read(key)
      File.binread(file(key))
    rescue SystemCallError
      nil
    end

    # Whole or not at all. A disk that is full costs only time.
    def write(key, bytes)
      made = "#{file(key)}.#{Process.pid}"
      File.binwrite(made, bytes, perm: 0o600)
      File.rename(made, file(key))
    rescue SystemCallError
      FileUtils.rm_f(made)
    end

    private

    def file(key)
      File.join(@folder, Digest::SHA256.hexdigest(key)[0, 32])
    end
  end
end
