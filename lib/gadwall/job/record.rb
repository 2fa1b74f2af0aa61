# frozen_string_literal: true

module Gadwall
  module Job
    # What is known of a job beside its log. vehicle: Hash of the sheet; times: ISO 8601 texts, promised_at may be nil.
    Record =
      Struct.new(:id, :number, :vehicle, :customer, :complaint, :taken_in_at, :promised_at, keyword_init: true) do
        # The vehicle's number plate, or nil.
        def plate
          vehicle["plate"]
        end

        # What the workshop calls the vehicle.
        def vehicle_name
          vehicle["name"]
        end
      end
  end
end
