# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # The vehicle came back after the hand-over. values: words (what the customer reports), same (true where it is the
      # same complaint).
      class NoteComeback < Act
        private

        def closed
          "#{dossier.number} is not handed over yet. Add a note instead." unless dossier.handed_over?
        end

        def check
          required(:words, "Enter what the customer reports.", most: 4000)
        end

        def entries
          [Entries::Comeback.new("words" => text(:words), "same" => values[:same] == true)]
        end
      end
    end
  end
end
