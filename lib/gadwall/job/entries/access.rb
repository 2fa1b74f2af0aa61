# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # What of the vehicle was opened or closed: keys as in docs/formats/case.md.
      class Access < Entry
        include Withdrawable

        KIND = "access"
        VERSION = 1

        # Keys of what was opened: ["front_left/wheel_off", ...].
        def opened
          data["opened"] || []
        end

        # Keys of what was closed again.
        def closed
          data["closed"] || []
        end

        # Does the diagnosis use it?
        def evidence?
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
