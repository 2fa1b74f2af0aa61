# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # A scan of all modules: those that were asked, and their codes. phase "after": after the repair.
      class Scan < Entry
        include Seen

        KIND = "scan"
        VERSION = 1

        # [{"name" =>, "answered" =>}, ...]
        def modules
          data["modules"] || []
        end

        # [{"code" =>, "failure_type" =>, "status" =>, "text" =>, "module" =>, "circuit" =>, "claim" =>}, ...]
        def codes
          data["codes"] || []
        end

        private

        def check
          list!("modules")
          list!("codes")
          one_of!("phase", PHASES, optional: true)
        end
      end
    end
  end
end
