# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # A part of the road test after the repair: passed or failed.
      class Drive < Entry
        KIND = "drive"
        VERSION = 1

        RESULTS = %w[pass fail].freeze

        # Id of the leg, as the plan has it.
        def item
          data["item"]
        end

        # "pass" or "fail".
        def result
          data["result"]
        end

        # Monitors whose status said that they ran.
        def ran
          data["ran"] || []
        end

        # What a log of live data showed of it, or nil where somebody's word stands alone.
        def by_log
          data["by_log"]
        end

        private

        def check
          text!("item", 100, "a part of the road test")
          one_of!("result", RESULTS)
          list!("ran")
          text_or_nothing!("by_log", 1000)
        end
      end
    end
  end
end
