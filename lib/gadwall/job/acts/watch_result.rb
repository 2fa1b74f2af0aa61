# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # How a watch period ended. values: result (of Entries::WatchResult::RESULTS), words.
      class WatchResult < Act
        private

        def closed
          "#{dossier.number} is not handed over yet: its watch has not begun." unless dossier.handed_over?
        end

        def check
          refuse("result", "Choose how the watch ended.") unless Entries::WatchResult::RESULTS.include?(values[:result])
        end

        def entries
          [Entries::WatchResult.new("result" => values[:result], "words" => text(:words))]
        end
      end
    end
  end
end
