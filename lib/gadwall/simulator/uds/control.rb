# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 2F: pump, valves and motors (30xx): 00 gives control back, 03 takes it for a moment.
      class Control < Service
        EXTENDED_ONLY = true
        LEAST = 4
        MOVES = %w[abs epb accumulator trailer].freeze
        PARAMETERS = [0x00, 0x03].freeze

        private

        def served(bytes)
          raise Refused, :range unless bytes[1] == 0x30 && MOVES.include?(@ecu.id)
          raise Refused, :range unless PARAMETERS.include?(bytes[3])

          still!
          [0x6F, *bytes[1, 3], *bytes.drop(4)]
        end
      end
    end
  end
end
