# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 28: what the module sends and hears beside diagnosis, until the session ends.
      class Communication < Service
        SUB_FUNCTIONS = [0x00, 0x01, 0x02, 0x03].freeze
        EXTENDED_ONLY = true
        MUTE = [0x02, 0x03].freeze # sends nothing

        private

        def served(bytes)
          length!(bytes, 3)
          raise Refused, :range unless (bytes[2] & 0x0F).between?(1, 3)

          @ecu.mute = MUTE.include?(bytes[1])
          [0x68, bytes[1]]
        end
      end
    end
  end
end
