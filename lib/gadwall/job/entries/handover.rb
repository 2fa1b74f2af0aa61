# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # The vehicle left: what the customer was told, what was still open, and what it turned out to be.
      class Handover < Entry
        KIND = "handover"
        VERSION = 1

        # What was said to the customer.
        def words
          data["words"].to_s
        end

        # Checks that were still outstanding: Array of texts.
        def open_points
          data["open"] || []
        end

        # [{"template" =>, "fault" =>}, ...]: what was proven, for the workshop's closed cases.
        def causes
          data["causes"] || []
        end

        private

        def check
          text_or_nothing!("words", 4000)
          list!("open")
          list!("causes")
        end
      end
    end
  end
end
