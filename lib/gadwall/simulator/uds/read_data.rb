# frozen_string_literal: true

module Gadwall
  module Simulator
    module Uds
      # 22: data by one or more identifiers; those that it does not know are left out, none at all is out of range.
      class ReadData < Service
        LEAST = 3

        private

        def served(bytes)
          raise Refused, :length if bytes.size.even?

          data = Data.new(@vehicle, @ecu)
          parts =
            bytes
              .drop(1)
              .each_slice(2)
              .filter_map { |high, low| data.bytes((high << 8) | low)&.then { |value| [high, low, *value] } }
          raise Refused, :range if parts.empty?

          [0x62, *parts.flatten]
        end
      end
    end
  end
end
