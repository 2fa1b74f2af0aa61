# frozen_string_literal: true

module Store
  # Where tables of wirings are put away: a folder beside the database, one file for each wiring. They are computed from
  # data/ and the code that reads it.
  class TableFolder < VersionFolder
    ROOMS = %w[circuits tests quantity knowledge vehicle].freeze # of the core: the code that tables are computed by

    # Version of everything that tables depend on: the knowledge, and the code that computes them.
    def self.version
      @version ||=
        digest(
          Gadwall::Knowledge.fingerprint,
          RUBY_VERSION,
          *ROOMS.flat_map { |room| files("lib/gadwall/#{room}/**/*.rb") }.map { |file| File.binread(file) }
        )
    end
  end
end
