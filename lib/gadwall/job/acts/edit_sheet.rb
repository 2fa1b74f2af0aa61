# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Changes the vehicle sheet. Evidence that stands must still fit it. After the decision only what names the
      # vehicle may change. values: vehicle (Hash of the sheet, whole), system (Vehicle::System built of it).
      class EditSheet < Act
        private

        NAMES = %w[name vin plate].freeze

        def closed
          after_handover
        end

        def check
          if dossier.decided? && values[:vehicle].except(*NAMES) != dossier.record.vehicle.except(*NAMES)
            return refuse("sheet", after_decision)
          end

          EvidenceReader.new(Log.new(log.entries, values[:system])).body
        rescue InputError => error
          refuse("sheet", "#{error.message} Withdraw that entry first, or keep the connector.")
        end

        def entries
          values[:vehicle] == dossier.record.vehicle ? [] : [Entries::Sheet.new("vehicle" => values[:vehicle])]
        end

        def vehicle
          values[:vehicle]
        end
      end
    end
  end
end
