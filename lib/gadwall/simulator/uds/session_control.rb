# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 10: another session; its answer names P2 (50 ms) and P2* (5 s).
      class SessionControl < Service
        SUB_FUNCTIONS = [0x01, 0x02, 0x03].freeze

        private

        def served(bytes)
          length!(bytes, 2)
          still! if bytes[1] == 0x02
          @ecu.begin_session(bytes[1])
          [0x50, bytes[1], 0x00, 0x32, 0x01, 0xF4]
        end
      end
    end
  end
end
