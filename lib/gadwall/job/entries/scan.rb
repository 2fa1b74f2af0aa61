# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # A scan of all modules: those that were asked, and their codes. phase "after": after the repair.
      class Scan < Entry
        include Seen

        KIND = "scan"
        VERSION = 1
        MOST_MODULES = 200

        # [{"name" =>, "answered" =>}, ...]
        def modules
          data["modules"] || []
        end

        # [{"code" =>, "failure_type" =>, "status" =>, "text" =>, "module" =>, "circuit" =>, "claim" =>}, ...]
        def codes
          data["codes"] || []
        end

        # Was it read by a diagnostic interface?
        def by_interface?
          data["via"] == "interface"
        end

        # How many modules responded in all; nil where nobody counted.
        def responded
          data["responded"]
        end

        # How many should have, by the build list or an earlier scan; nil where nobody said.
        def expected
          data["expected"]
        end

        private

        def check
          count!("responded")
          count!("expected")
          list!("modules")
          list!("codes")
          one_of!("phase", PHASES, optional: true)
          one_of!("via", ["interface"], optional: true)
        end

        def count!(name)
          given = data[name]
          return if given.nil? || (given.is_a?(Integer) && given.between?(0, MOST_MODULES))

          fault!(name, given, "a number of modules, 0 to #{MOST_MODULES}")
        end
      end
    end
  end
end
