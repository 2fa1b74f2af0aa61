# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # The diagnosis opened again after a decision, and why. Decisions before it no longer count.
      class Reopen < Entry
        KIND = "reopen"
        VERSION = 1

        # Why the diagnosis was opened again.
        def reason
          data["reason"]
        end

        private

        def check
          text!("reason", 1000, "why the diagnosis is opened again")
        end
      end
    end
  end
end
