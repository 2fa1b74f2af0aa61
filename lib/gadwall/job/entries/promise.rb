# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # When the customer was told that the vehicle will be ready.
      class Promise < Entry
        KIND = "promise"
        VERSION = 1

        # ISO 8601 text.
        def promised_at
          data["promised_at"]
        end

        private

        def check
          text!("promised_at", 40, "a day and a time")
        end
      end
    end
  end
end
