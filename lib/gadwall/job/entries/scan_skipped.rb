# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # No scan was made, and why.
      class ScanSkipped < Entry
        KIND = "scan_skipped"
        VERSION = 1

        # Why no scan was made.
        def reason
          data["reason"]
        end

        private

        def check
          text!("reason", 1000, "why no scan was made")
        end
      end
    end
  end
end
