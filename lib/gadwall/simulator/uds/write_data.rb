# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 2E: data behind security access.
      class WriteData < Service
        EXTENDED_ONLY = true
        LEAST = 4

        private

        def served(bytes)
          row = Data.new(@vehicle, @ecu).row(word(bytes, 1))
          raise Refused, :range unless row && row["written"]

          length!(bytes, 3 + row["bytes"])
          raise Refused, :security unless @ecu.unlocked

          still!
          @ecu.written[row["did"]] = bytes.drop(3)
          [0x6E, bytes[1], bytes[2]]
        end
      end
    end
  end
end
