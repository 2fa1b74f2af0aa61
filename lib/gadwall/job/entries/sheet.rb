# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # The vehicle sheet as it was changed to: whole, so that the log alone gives any earlier one back.
      class Sheet < Entry
        KIND = "sheet"
        VERSION = 1

        # Hash of the sheet.
        def vehicle
          data["vehicle"]
        end

        private

        def check
          fault!("vehicle", vehicle, "a vehicle sheet") unless vehicle.is_a?(Hash)
        end
      end
    end
  end
end
