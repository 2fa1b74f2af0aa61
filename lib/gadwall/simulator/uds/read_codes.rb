# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 19: how many by mask (01), by mask (02), the snapshot of one (04), what more is known of one (06), all that the
      # module can set (0A).
      class ReadCodes < Service
        SUB_FUNCTIONS = [0x01, 0x02, 0x04, 0x06, 0x0A].freeze
        AVAILABLE = 0xFF # bits of the status that this module keeps
        FORMAT = 0x01 # of ISO 14229-1
        RECORD = 0x01
        EVERY_RECORD = 0xFF
        # What a snapshot holds: [identifier, bytes, step, name].
        FROZEN = [[0x2030, 2, 0.01, "speed_km_h"], [0x2011, 2, 0.01, "system_voltage"]].freeze

        private

        def served(bytes)
          case bytes[1]
          when 0x01
            count(bytes)
          when 0x02
            length!(bytes, 3)
            [0x59, 0x02, AVAILABLE, *listed(@ecu.codes(bytes[2]))]
          when 0x04
            snapshot(bytes)
          when 0x06
            extended(bytes)
          else
            length!(bytes, 2)
            [0x59, 0x0A, AVAILABLE, *listed(@ecu.dtcs.values)]
          end
        end

        def count(bytes)
          length!(bytes, 3)
          [0x59, 0x01, AVAILABLE, FORMAT, *number(@ecu.codes(bytes[2]).size, 2)]
        end

        def listed(dtcs)
          dtcs.flat_map { |each| [*each.bytes, each.status] }
        end

        # A code of this module. Raises Refused.
        def dtc(bytes)
          length!(bytes, 6)
          @ecu.dtcs.values.find { |each| each.bytes == bytes[2, 3] } or raise Refused, :range
        end

        def snapshot(bytes)
          dtc = dtc(bytes)
          raise Refused, :range unless [RECORD, EVERY_RECORD].include?(bytes[5])

          head = [0x59, 0x04, *bytes[2, 3], dtc.status]
          return head unless dtc.snapshot

          values =
            FROZEN.flat_map do |did, size, step, name|
              [*number(did, 2), *number(dtc.snapshot.fetch(name) / step, size)]
            end
          [*head, RECORD, FROZEN.size, *values]
        end

        def extended(bytes)
          dtc = dtc(bytes)
          records = { 0x01 => dtc.occurrences, 0x02 => dtc.clean_cycles }
          records = records.slice(bytes[5]) unless bytes[5] == EVERY_RECORD
          raise Refused, :range if records.empty?

          data = records.flat_map { |record, value| [record, *number(value, 1)] }
          [0x59, 0x06, *bytes[2, 3], dtc.status, *data]
        end
      end
    end
  end
end
