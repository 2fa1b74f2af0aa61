# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # Something to remember; no part in the diagnosis.
      class Note < Entry
        KIND = "note"
        VERSION = 1

        # The note.
        def words
          data["words"].to_s
        end

        private

        def check
          text_or_nothing!("words", 4000)
        end
      end
    end
  end
end
