# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # A scan of all modules: those that were asked, and their codes. phase "after": after the repair.
      class Scan < Entry
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

        # Does the diagnosis use it?
        def evidence?
          !after?
        end

        # May it be taken back, with a reason?
        def withdrawable?
          true
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
