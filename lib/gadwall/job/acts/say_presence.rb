# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Says whether the fault is there now; it holds for the readings that follow. values: fault (of
      # Observations::PRESENCES).
      class SayPresence < Act
        private

        def closed
          after_decision
        end

        def check
          return if Observations::PRESENCES.key?(values[:fault])

          refuse("presence", "Say whether the fault is present now, gone, or intermittent.")
        end

        def entries
          [Entries::Presence.new("fault" => values[:fault])]
        end
      end
    end
  end
end
