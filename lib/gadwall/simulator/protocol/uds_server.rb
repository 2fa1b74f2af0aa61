# frozen_string_literal: true

module Gadwall
  module Simulator
    module Protocol
      # How a simulated module answers (ISO 14229-1, from memory): sessions, tester present, reset, codes by mask and
      # supported, snapshots, clear, data by identifier, security access, input/output control, routines, writing; and
      # the negative responses that belong to a wrong length, session, sequence, state or key.
      class UdsServer
        include DataIdentifiers

        NEGATIVE = 0x7F
        NRC = {
          service: 0x11,
          sub_function: 0x12,
          length: 0x13,
          conditions: 0x22,
          sequence: 0x24,
          range: 0x31,
          security: 0x33,
          key: 0x35,
          pending: 0x78,
          sub_function_session: 0x7E,
          service_session: 0x7F
        }.freeze
        SUPPRESS = 0x80
        KEY_MASK = 0x5A3C # demo: the key is the seed with these bits turned
        EXTENDED_ONLY = [0x27, 0x2E, 0x2F, 0x31].freeze

        # A refusal on the way. code: one of NRC.
        class Refused < StandardError
          attr_reader :code

          def initialize(name)
            @code = NRC.fetch(name)
            super(name.to_s)
          end
        end

        # vehicle: Simulator::VehicleUnderTest; ecu: Ecu.
        def initialize(vehicle, ecu)
          @vehicle = vehicle
          @ecu = ecu
          @catalogue = vehicle.system.catalogue
        end

        # bytes: of a request; functional: was it sent to all? Returns the answers in order, [] where none is sent.
        # 'Response pending' comes before one that takes long.
        def answer(bytes, functional: false)
          expire
          @ecu.last_heard_s = now
          service = bytes.first
          reply = send(handler(service), bytes)
          suppressed?(bytes) ? [] : [*pending(bytes), reply]
        rescue Refused => error
          quiet = functional && [NRC[:service], NRC[:sub_function], NRC[:range]].include?(error.code)
          quiet ? [] : [[NEGATIVE, service || 0, error.code]]
        end

        private

        HANDLERS = {
          0x10 => :session,
          0x11 => :reset,
          0x14 => :clear,
          0x19 => :read_codes,
          0x22 => :read_data,
          0x27 => :security,
          0x2E => :write_data,
          0x2F => :control,
          0x31 => :routine,
          0x3E => :tester_present
        }.freeze

        def now
          @vehicle.state.clock_s
        end

        def handler(service)
          name = HANDLERS[service] or raise Refused, :service
          raise Refused, :service_session if EXTENDED_ONLY.include?(service) && @ecu.session == 0x01

          name
        end

        # A session that nobody keeps up falls back to the default one.
        def expire
          @ecu.restart if @ecu.session != 0x01 && now - @ecu.last_heard_s > Ecu::SESSION_ENDS_S
        end

        def length!(bytes, *allowed)
          raise Refused, :length unless allowed.any? { |each| each === bytes.size } # rubocop:disable Style/CaseEquality
        end

        def suppressed?(bytes)
          [0x10, 0x11, 0x3E].include?(bytes[0]) && bytes[1].to_i.anybits?(SUPPRESS)
        end

        def pending(bytes)
          return [] unless bytes[0] == 0x31 && bytes[1] == 0x01

          row = routine_row(bytes)
          row && row["busy_s"] > 0.4 ? [[NEGATIVE, 0x31, NRC[:pending]]] : []
        end

        def session(bytes)
          length!(bytes, 2)
          kind = bytes[1] & 0x7F
          raise Refused, :sub_function unless Ecu::SESSIONS.key?(kind)
          raise Refused, :conditions if kind == 0x02 && !@vehicle.state.still?

          @ecu.session = kind
          @ecu.unlocked = false
          [0x50, kind, 0x00, 0x32, 0x01, 0xF4]
        end

        def reset(bytes)
          length!(bytes, 2)
          raise Refused, :sub_function unless [0x01, 0x03].include?(bytes[1] & 0x7F)
          raise Refused, :conditions unless @vehicle.state.still?

          @ecu.restart
          [0x51, bytes[1] & 0x7F]
        end

        def tester_present(bytes)
          length!(bytes, 2)
          raise Refused, :sub_function unless bytes[1].nobits?(0x7F)

          [0x7E, 0x00]
        end

        def clear(bytes)
          length!(bytes, 4)
          raise Refused, :range unless bytes.drop(1) == [0xFF, 0xFF, 0xFF]
          raise Refused, :conditions unless @vehicle.state.still?

          @ecu.clear
          [0x54]
        end

        # 01: how many by mask; 02: by mask; 04: snapshot; 0A: supported.
        def read_codes(bytes)
          case bytes[1]
          when 0x01
            length!(bytes, 3)
            count = @ecu.codes(bytes[2]).size
            [0x59, 0x01, 0xFF, 0x01, count >> 8, count & 0xFF]
          when 0x02
            length!(bytes, 3)
            [0x59, 0x02, 0xFF, *listed(@ecu.codes(bytes[2]))]
          when 0x04
            length!(bytes, 6)
            snapshot(bytes)
          when 0x0A
            length!(bytes, 2)
            [0x59, 0x0A, 0xFF, *listed(@ecu.dtcs.values)]
          else
            raise Refused, :sub_function
          end
        end

        def listed(dtcs)
          dtcs.flat_map { |each| [*three(each.word), each.status] }
        end

        def three(word)
          bytes = word.bytes
          bytes.size == 3 ? bytes : [*bytes, 0x00]
        end

        # Record 01 of one code: speed in km/h, voltage in 0.1 V.
        def snapshot(bytes)
          dtc = @ecu.dtcs.values.find { |each| three(each.word) == bytes[2, 3] && each.snapshot }
          raise Refused, :range unless dtc && [0x01, 0xFF].include?(bytes[5])

          speed, volts = dtc.snapshot.values_at("speed_km_h", "system_voltage")
          [
            0x59,
            0x04,
            *bytes[2, 3],
            dtc.status,
            0x01,
            0x02,
            0x20,
            0x01,
            *word(speed * 100),
            0x20,
            0x11,
            *word(volts * 100)
          ]
        end

        # 01: ask for the seed; 02: send the key.
        def security(bytes)
          case bytes[1]
          when 0x01
            length!(bytes, 2)
            @ecu.seed = @ecu.unlocked ? 0 : (0x1000 + (@ecu.request_id * 7) + now.to_i) & 0xFFFF
            [0x67, 0x01, *word(@ecu.seed)]
          when 0x02
            length!(bytes, 4)
            raise Refused, :sequence unless @ecu.seed
            raise Refused, :key unless ((bytes[2] << 8) | bytes[3]) == (@ecu.seed ^ KEY_MASK)

            @ecu.unlocked = true
            [0x67, 0x02]
          else
            raise Refused, :sub_function
          end
        end

        # Pump, valves and motors: 30xx. 00 gives control back, 03 takes it for a moment.
        def control(bytes)
          raise Refused, :length if bytes.size < 4
          raise Refused, :range unless bytes[1] == 0x30 && %w[abs epb accumulator trailer].include?(@ecu.id)
          raise Refused, :range unless [0x00, 0x03].include?(bytes[3])
          raise Refused, :conditions unless @vehicle.state.still?

          [0x6F, *bytes[1, 3], *bytes.drop(4)]
        end

        # 01 start, 02 stop, 03 results.
        def routine(bytes)
          raise Refused, :length if bytes.size < 4
          raise Refused, :sub_function unless [0x01, 0x02, 0x03].include?(bytes[1])

          row = routine_row(bytes) or raise Refused, :range
          return results(bytes, row) if bytes[1] == 0x03

          start(row) if bytes[1] == 0x01
          raise Refused, :sequence if bytes[1] == 0x02 && !@ecu.running.delete(row["id"])

          [0x71, *bytes[1, 3], 0x00]
        end

        def start(row)
          raise Refused, :conditions unless row["needs"].all? { |need| met?(need) }

          @vehicle.wait(row["busy_s"])
          @ecu.last_heard_s = now
          @ecu.running[row["id"]] = true
          @ecu.learned[row["sets"]] = now if row["sets"]
        end

        def results(bytes, row)
          raise Refused, :sequence unless @ecu.running[row["id"]]

          [0x71, *bytes[1, 3], 0x00]
        end

        def routine_row(bytes)
          id = (bytes[2].to_i << 8) | bytes[3].to_i
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

        def word(value)
          number(value.round, 2)
        end

        def number(value, bytes)
          (bytes - 1).downto(0).map { |i| (value >> (8 * i)) & 0xFF }
        end
      end
    end
  end
end
