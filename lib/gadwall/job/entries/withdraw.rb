# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # An earlier entry taken back, and why. Both stay in the log.
      class Withdraw < Entry
        KIND = "withdraw"
        VERSION = 1

        # seq of the entry taken back.
        def entry
          data["entry"]
        end

        # What was wrong with the entry.
        def reason
          data["reason"]
        end

        private

        def check
          fault!("entry", entry, "the number of an entry") unless entry.is_a?(Integer)
          text!("reason", 1000, "what was wrong with it")
        end
      end
    end
  end
end
