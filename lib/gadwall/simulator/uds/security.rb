# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 27: a seed (01), its key (02). A wrong key costs the seed; the third in a row closes the module for some
      # seconds, a reset or not.
      class Security < Service
        SUB_FUNCTIONS = [0x01, 0x02].freeze
        EXTENDED_ONLY = true
        MOST_ATTEMPTS = 3 # common practice
        DELAY_S = 10.0 # common practice

        private

        def served(bytes)
          bytes[1] == 0x01 ? seed(bytes) : key(bytes)
        end

        def seed(bytes)
          length!(bytes, 2)
          return 0x67, 0x01, 0x00, 0x00 if @ecu.unlocked
          raise Refused, :delay if @ecu.closed_until_s && now < @ecu.closed_until_s

          @ecu.seed = drawn
          [0x67, 0x01, *number(@ecu.seed, 2)]
        end

        # Another one each time, never nought, the same for the same seed of the vehicle.
        def drawn
          @given = @given.to_i + 1
          1 + (((@ecu.request_id * 7919) + (@given * 40_503) + now.to_i) % 0xFFFE)
        end

        def key(bytes)
          length!(bytes, 4)
          raise Refused, :sequence unless @ecu.seed

          expected = @ecu.seed ^ KEY_MASK
          @ecu.seed = nil
          wrong! unless word(bytes, 2) == expected
          @ecu.attempts = 0
          @ecu.unlocked = true
          [0x67, 0x02]
        end

        def wrong!
          @ecu.attempts += 1
          raise Refused, :key if @ecu.attempts < MOST_ATTEMPTS

          @ecu.attempts = 0
          @ecu.closed_until_s = now + DELAY_S
          raise Refused, :attempts
        end
      end
    end
  end
end
