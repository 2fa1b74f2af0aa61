# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # What is known of complaint, recent work and use, said again: the earlier entries are taken back, this one
      # counts. What it does not speak of (the customer's words, what keeps the vehicle off the road) is carried over.
      # values: ids, shop_cases.
      class SayCircumstances < Act
        private

        def closed
          after_decision
        end

        def check
          known = dossier.catalogue.symptoms
          unknown = values[:ids].find { |id| !known.key?(id) }
          return unless unknown

          refuse("symptoms", UnknownNameError.new(field: "symptoms", given: unknown, known: known.keys).message)
        end

        def entries
          [
            said,
            *earlier.map { |entry| Entries::Withdraw.new("entry" => entry.seq, "reason" => "circumstances updated") }
          ]
        end

        def said
          Entries::Symptoms.new(
            "ids" => values[:ids],
            "words" => earlier.filter_map(&:words).last || dossier.record.complaint,
            "triage" => log.triage,
            "shop_cases" => values[:shop_cases]
          )
        end

        def earlier
          log.of(Entries::Symptoms::KIND)
        end
      end
    end
  end
end
