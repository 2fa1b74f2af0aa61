# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 85: whether monitors write codes (01) or not (02), until the session ends.
      class CodeSetting < Service
        SUB_FUNCTIONS = [0x01, 0x02].freeze
        EXTENDED_ONLY = true

        private

        def served(bytes)
          length!(bytes, 2)
          @ecu.setting = bytes[1] == 0x01
          [0xC5, bytes[1]]
        end
      end
    end
  end
end
