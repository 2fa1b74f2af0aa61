# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 31: routines of data/simulation/routines.yml: 01 start, 02 stop, 03 results.
      class Routine < Service
        SUB_FUNCTIONS = [0x01, 0x02, 0x03].freeze
        EXTENDED_ONLY = true
        LEAST = 4

        # Seconds that the last one takes.
        def busy_s
          @busy_s.to_f
        end

        private

        def served(bytes)
          @busy_s = 0.0
          row = row_of(word(bytes, 2)) or raise Refused, :range
          case bytes[1]
          when 0x01
            start(row)
          when 0x02
            raise Refused, :sequence unless @ecu.running.delete(row["id"])
          else
            raise Refused, :sequence unless @ecu.running.key?(row["id"])
          end
          [0x71, *bytes[1, 3], 0x00]
        end

        def start(row)
          raise Refused, :conditions unless row["needs"].all? { |need| met?(need) }

          @busy_s = row["busy_s"]
          @ecu.running[row["id"]] = true
          @ecu.learned[row["sets"]] = now if row["sets"]
        end

        def row_of(id)
          @catalogue.routines.values.find { |row| row["routine"] == id && row["modules"].include?(@ecu.id) }
        end

        def met?(need)
          state = @vehicle.state
          case need
          when "still"
            state.still?
          when "foot_off"
            state.pedal == "released"
          when "supported"
            state.support
          when "straight"
            state.steering_deg.abs < 5
          when "no_codes"
            !@ecu.failing?
          end
        end
      end
    end
  end
end
