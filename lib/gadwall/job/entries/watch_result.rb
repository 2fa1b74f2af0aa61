# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # How a watch period ended.
      class WatchResult < Entry
        KIND = "watch_result"
        VERSION = 1

        RESULTS = %w[stayed_away came_back not_driven].freeze

        # What became of the fault that was monitored.
        def result
          data["result"]
        end

        # What was noted of it.
        def words
          data["words"]
        end

        # Does it say that the repair did not cure the vehicle?
        def repeats?
          result == "came_back"
        end

        private

        def check
          one_of!("result", RESULTS)
          text_or_nothing!("words", 1000)
        end
      end
    end
  end
end
