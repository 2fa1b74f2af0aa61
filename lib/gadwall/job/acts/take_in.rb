# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Takes a vehicle in. values: vehicle (Hash of the sheet), customer, complaint, ids (of data/codes/symptoms),
      # triage (ids of Triage), lamps (values of NoteLamps, or nil), promised_at (ISO 8601 text or nil), comeback_of
      # (number of the job whose vehicle came back, or nil). The job's record is `record`.
      class TakeIn < Act
        # The Record of the new job, without id and number. values: as for the act; at: Time.
        def self.record(values, at:)
          Record.new(
            vehicle: values[:vehicle],
            customer: Signature.trimmed(values[:customer]),
            complaint: values[:complaint],
            taken_in_at: at.iso8601,
            promised_at: values[:promised_at]
          ).freeze
        end

        private

        def check
          Vehicle::Sheet.new(values[:vehicle])
          unknown = values[:ids].find { |id| !Knowledge.catalogue.symptoms.key?(id) }
          refuse("symptoms", "'#{unknown.to_s[0, 40]}' is not on the list. Select again.") if unknown
          check_lamps
          wrong = values[:promised_at] && Promise.wrong(values[:promised_at], at)
          refuse("promised", wrong) if wrong
          signature(:customer, "Enter the customer's name.", most: 200)
          required(:complaint, "Enter what the customer says, in their words.", most: 4000)
        rescue InputError => error
          refuse(error.field, error.message)
        end

        # What keeps the vehicle off the road, as said, or as its lamps say.
        def triage
          lit = values.dig(:lamps, :lit) || []
          values[:triage] | Diagnosis::OffRoad.of_lamps(lit, Knowledge.catalogue)
        end

        def check_lamps
          error = NoteLamps.error(values[:lamps] || {}, Knowledge.catalogue)
          refuse("lamps", error) if error
        end

        def entries
          said = { "ids" => values[:ids], "words" => text(:complaint), "triage" => triage }
          said["comeback_of"] = values[:comeback_of] if values[:comeback_of]
          promise = values[:promised_at] && Entries::Promise.new("promised_at" => values[:promised_at])
          lamps = NoteLamps.entry(values[:lamps] || {}, Knowledge.catalogue)
          [Entries::Symptoms.new(said), lamps, promise].compact
        end
      end
    end
  end
end
