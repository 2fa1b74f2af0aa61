# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Sets when the vehicle was promised to be ready. values: promised_at (ISO 8601 text).
      class Promise < Act
        DAYS_BACK = 365 # a promise of last year may still be noted
        DAYS_AHEAD = 730

        # Why nothing can be promised for then, or nil. promised_at: ISO 8601 text; at: Time now.
        def self.wrong(promised_at, at)
          promised = Time.iso8601(promised_at)
          return if promised.between?(at - (DAYS_BACK * 86_400), at + (DAYS_AHEAD * 86_400))

          "#{promised.strftime("%F")} is no day to promise. Enter one of the next two years."
        rescue ArgumentError
          "Enter a day and a time, such as 2026-11-30 16:00."
        end

        private

        def closed
          after_handover
        end

        def check
          wrong = Promise.wrong(text(:promised_at), at)
          refuse("promised_at", wrong) if wrong
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
