# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # Something made safe before the hand moves.
      # What each does in the words of plans, its minutes, and what was done; demo, the waits common practice.
      class Safe < Act
        WAYS = {
          "high_voltage_off" => ["zero:high_voltage", 12.0, "Service disconnect out, ten minutes waited"],
          "no_voltage_proven" => ["prove:no_voltage", 3.0, "Meter proven, no voltage measured, meter proven again"],
          "accumulator_empty" => ["zero:accumulator", 4.0, "Accumulator emptied"],
          "pressure_read" => ["prove:pressure_zero", 1.0, "Pressure read: zero"],
          "air_drained" => ["zero:air", 5.0, "Reservoirs drained, gauges at zero"],
          "battery_off" => ["zero:battery", 3.0, "Battery ground off"],
          "airbag_off" => ["zero:airbag", 5.0, "Battery off, the restraint system's time waited"],
          "park_brake_service" => ["zero:park_brake_motor", 2.0, "Park brake in its service position"]
        }.freeze

        # As of Act.
        def perform
          what = given["what"]
          raise UnknownNameError.new(field: "safe", given: what, known: WAYS.keys) unless WAYS.key?(what.to_s)

          word, minutes, text = WAYS.fetch(what.to_s)
          stand.spend(minutes)
          stand.make_safe(word)
          say(text)
        end
      end
    end
  end
end
