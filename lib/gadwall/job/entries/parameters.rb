# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # A set of parameters as it was read or typed: of the old module, the plate on the vehicle, or the new module.
      # Kept beside those of before, never over them.
      class Parameters < Entry
        KIND = "parameters"
        VERSION = 1

        # Where it was read, in the order of the comparison: {id => words}.
        SOURCES = {
          "old_module" => "old module",
          "plate" => "plate on the vehicle",
          "library" => "workshop's library or manufacturer",
          "new_module" => "new module"
        }.freeze

        # The set that was last kept of each source. entries: Array of Parameters, oldest first. Returns
        # {source => rows, or nil}, in the order of SOURCES.
        def self.latest(entries)
          SOURCES.keys.to_h { |source| [source, entries.reverse.find { |entry| entry.source == source }&.rows] }
        end

        # One of SOURCES.
        def source
          data["source"]
        end

        # [{"name" =>, "value" =>, "unit" =>}, ...].
        def rows
          data["rows"]
        end

        # File that it came from, or nil.
        def file
          data["file"]
        end

        private

        def check
          one_of!("source", SOURCES.keys)
          list!("rows", optional: false)
          fault!("rows", "0", "at least one parameter") if data["rows"].empty?
          text_or_nothing!("file", 200)
        end
      end
    end
  end
end
