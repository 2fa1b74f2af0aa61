# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 3E: somebody is there; the session goes on.
      class TesterPresent < Service
        SUB_FUNCTIONS = [0x00].freeze

        private

        def served(bytes)
          length!(bytes, 2)
          [0x7E, 0x00]
        end
      end
    end
  end
end
