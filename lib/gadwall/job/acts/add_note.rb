# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Something to remember. values: words. At any time.
      class AddNote < Act
        private

        def check
          required(:words, "Enter the note.", most: 4000)
        end

        def entries
          [Entries::Note.new("words" => text(:words))]
        end
      end
    end
  end
end
