# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # The customer's decision on the conclusion that is to be decided next, kept with all that it was made of; with
      # the last conclusion decided, the plan is composed. values: option, words (the customer's), signed_by (who
      # authorised it), shown (the text that the customer saw, where he answered on his own page).
      class Decide < Act
        private

        def closed
          after_decision
        end

        def check
          return refuse("option", dossier.trouble.message) if dossier.trouble
          return refuse("option", "Choose one of the options.") unless choice
          return refuse("option", "Refused: #{choice.refused}") if choice.refused

          signature(:signed_by, "Enter who authorised it: the customer's name, or who gave it by telephone.", most: 200)
          refuse("words", "At most 4000 letters. Shorten it.") if text(:words).length > 4000
        end

        def entries
          decision = Entries::Decision.new(decided)
          remaining.empty? ? [decision, plan(decision)] : [decision]
        rescue Repair::UnsoundPlanError => error
          refuse("option", error.message)
          []
        end

        def offer
          dossier.options
        end

        def choice
          offer&.choice(text(:option))
        end

        def decided
          {
            "version" => 2,
            "option" => choice.id,
            "place" => offer.suspect.place,
            "words" => text(:words),
            "signed_by" => text(:signed_by),
            **(text(:shown).empty? ? {} : { "shown" => text(:shown)[0, 8000] }),
            "remaining" => remaining,
            "snapshot" => Snapshot.of(offer, dossier.assessment, rate: dossier.rate)
          }
        end

        # Places that are still to be decided after this.
        def remaining
          (dossier.open_offers - [offer]).reject { |other| other.suspect.none? }.map { |other| other.suspect.place }
        end

        def plan(decision)
          PlanEntry.of(dossier, dossier.decisions + [Snapshot.new(decision)])
        end
      end
    end
  end
end
