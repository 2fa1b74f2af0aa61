# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # How a simulated module answers (ISO 14229-1:2020, from memory): which service, in which session, of what length;
      # what is refused, and with which negative response. What a service does is a class beside this one.
      class Server
        SERVICES = {
          0x10 => SessionControl,
          0x11 => Reset,
          0x14 => Clear,
          0x19 => ReadCodes,
          0x22 => ReadData,
          0x27 => Security,
          0x28 => Communication,
          0x2E => WriteData,
          0x2F => Control,
          0x31 => Routine,
          0x3E => TesterPresent,
          0x85 => CodeSetting
        }.freeze
        # Not answered where the request went to everybody and is not for this module (ISO 14229-1, 7.5.6).
        SILENT_TO_ALL =
          %i[service sub_function range sub_function_session service_session].map { |name| NRC.fetch(name) }
        ANSWER_S = 0.01 # common practice: P2 is 50 ms at the most
        PENDING_AGAIN_S = 2.0 # common practice: P2* is 5 s at the most

        # vehicle: VehicleUnderTest; ecu: Ecu; clock: gives the seconds by which sessions end.
        def initialize(vehicle, ecu, clock: -> { vehicle.state.clock_s })
          @ecu = ecu
          @clock = clock
          @services = SERVICES.transform_values { |service| service.new(vehicle, ecu, clock) }
        end

        # bytes: of a request; functional: was it sent to all? Returns the answers in order, each with the seconds after
        # which it comes: [[0.01, bytes], ...]; [] where none is sent. 'Response pending' is said again until the last.
        def replies(bytes, functional: false)
          return [] if bytes.empty?

          expire
          @ecu.last_heard_s = @clock.call
          answered(service_of(bytes), bytes)
        rescue Refused => error
          functional && SILENT_TO_ALL.include?(error.code) ? [] : [[ANSWER_S, [NEGATIVE, bytes.first, error.code]]]
        end

        # The same without their times.
        def answer(bytes, functional: false)
          replies(bytes, functional: functional).map(&:last)
        end

        # When the session falls back to the default one unless somebody keeps it up (S3): seconds, nil in that one.
        def session_ends_at
          @ecu.last_heard_s + Ecu::SESSION_ENDS_S unless @ecu.session == Ecu::DEFAULT
        end

        # A session that nobody kept up ends.
        def expire
          ends_at = session_ends_at
          @ecu.end_session if ends_at && @clock.call > ends_at
        end

        private

        def service_of(bytes)
          service = @services[bytes.first] or raise Refused, :service
          raise Refused, :service_session if service.extended_only? && @ecu.session == Ecu::DEFAULT

          service
        end

        def answered(service, bytes)
          reply = service.answer(bytes)
          busy = service.busy_s
          return [] if service.suppressed?(bytes) && busy <= ANSWER_S
          return [[ANSWER_S, reply]] if busy <= 0.05

          pending = [NEGATIVE, bytes.first, NRC.fetch(:pending)]
          said = (0...(busy / PENDING_AGAIN_S).ceil).map { |k| [ANSWER_S + (k * PENDING_AGAIN_S), pending] }
          @ecu.last_heard_s += busy
          [*said, [[busy, said.last.first + ANSWER_S].max, reply]]
        end
      end
    end
  end
end
