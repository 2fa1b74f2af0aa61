# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Sets when the vehicle was promised to be ready. values: promised_at (ISO 8601 text).
      class Promise < Act
        private

        def closed
          after_handover
        end

        def check
          Time.iso8601(text(:promised_at))
        rescue ArgumentError
          refuse("promised_at", "Enter a day and a time, such as 2026-11-30 16:00.")
        end

        def entries
          [Entries::Promise.new("promised_at" => promised_at)]
        end

        def promised_at
          text(:promised_at)
        end
      end
    end
  end
end
