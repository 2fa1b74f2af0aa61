# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A routine of the modules run. id: of data/simulation/routines.
      class Routine < Act
        MINUTES = 2.0 # demo

        # As of Act.
        def perform
          known = system.catalogue.routines
          row = known[given["id"]] or
            raise UnknownNameError.new(field: "routine", given: given["id"], known: known.keys)
          stand.spend(MINUTES)
          flat = !state.support && stand.battery_volt < Stand::FLAT_V
          return say("The battery gave up: #{row["name"]} broken off", warning: "battery flat") if flat

          run(row)
        end

        private

        def run(row)
          modules = vehicle.speaking.select { |ecu| row["modules"].include?(ecu.id) }
          ran = modules.filter_map { |ecu| stand.interface.routine(ecu.request_id, row["routine"]) }
          return say("Refused: #{refusal(ran)}") unless ran.any?(&:positive)

          stand.repairs.learned(row)
          stand.make_safe("zero:park_brake_motor") if row["id"] == "park_brake_service"
          say("Done: #{row["name"]}")
        end
      end
    end
  end
end
