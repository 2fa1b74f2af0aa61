# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # One service. Its checks stand in the order of ISO 14229-1, 8.7: least length, sub-function, session of the
      # sub-function, exact length, then what the service itself asks.
      class Service
        SUPPRESS = 0x80
        # Ids of sub-functions, [] for a service without; those only of another than the default session.
        SUB_FUNCTIONS = [].freeze
        EXTENDED_ONLY = false
        LEAST = 1 # bytes of a request, its own id with them

        # As of Server.
        def initialize(vehicle, ecu, clock)
          @vehicle = vehicle
          @ecu = ecu
          @clock = clock
          @catalogue = vehicle.system.catalogue
        end

        # Is it served in another than the default session only?
        def extended_only?
          self.class::EXTENDED_ONLY
        end

        # Is no positive answer wanted?
        def suppressed?(bytes)
          sub_functions.any? && bytes[1].to_i.anybits?(SUPPRESS)
        end

        # Seconds that the last answer takes.
        def busy_s
          0.0
        end

        # The positive answer. bytes: the request. Raises Refused.
        def answer(bytes)
          raise Refused, :length if bytes.size < [self.class::LEAST, sub_functions.any? ? 2 : 1].max
          return served(bytes) if sub_functions.empty?

          sub = bytes[1] & ~SUPPRESS & 0xFF
          raise Refused, :sub_function unless sub_functions.include?(sub)

          served([bytes[0], sub, *bytes.drop(2)])
        end

        private

        def sub_functions
          self.class::SUB_FUNCTIONS
        end

        def now
          @clock.call
        end

        def length!(bytes, size)
          raise Refused, :length unless bytes.size == size
        end

        def still!
          raise Refused, :conditions unless @vehicle.state.still?
        end

        # number: not negative; bytes: how many it is sent in, the largest where it does not fit.
        def number(value, bytes)
          fitted = value.round.clamp(0, (1 << (8 * bytes)) - 1)
          (bytes - 1).downto(0).map { |i| (fitted >> (8 * i)) & 0xFF }
        end

        def word(bytes, place)
          (bytes[place] << 8) | bytes[place + 1]
        end
      end
    end
  end
end
