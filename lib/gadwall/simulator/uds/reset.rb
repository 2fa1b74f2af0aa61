# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 11: hard, by the key, soft. The module starts anew behind its answer; attempts at its key stay counted.
      class Reset < Service
        SUB_FUNCTIONS = [0x01, 0x02, 0x03].freeze

        private

        def served(bytes)
          length!(bytes, 2)
          still!
          @ecu.restart
          [0x51, bytes[1]]
        end
      end
    end
  end
end
