# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # What of the vehicle was opened or closed: keys as in docs/formats/case.md.
      class Access < Entry
        KIND = "access"
        VERSION = 1

        def opened
          data["opened"] || []
        end

        def closed
          data["closed"] || []
        end

        def evidence?
          true
        end

        def withdrawable?
          true
        end

        private

        def check
          list!("opened")
          list!("closed")
        end
      end
    end
  end
end
