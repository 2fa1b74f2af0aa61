# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # The vehicle leaves. What is still open must be told to the customer. values: words (what the customer was told).
      class HandOver < Act
        private

        def closed
          before_decision || unfinished
        end

        def unfinished
          "Sign the steps of the repair first: the vehicle is handed over after them." unless dossier.plan.done?
        end

        def check
          shut = dossier.proof.shut
          return refuse("handover", "Not before this is signed: #{shut.join(", ")}.") if shut.any?

          open = dossier.proof.open_points
          return if open.empty? || !text(:words).empty?

          refuse("handover", "Outstanding: #{open.join(", ")}. Enter what the customer was told, or finish it first.")
        end

        def entries
          causes = dossier.decisions.flat_map(&:causes).uniq
          row = { "words" => text(:words), "open" => dossier.proof.open_points, "causes" => causes }
          [Entries::Handover.new(row)]
        end
      end
    end
  end
end
