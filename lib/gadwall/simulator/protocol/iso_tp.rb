# frozen_string_literal: true

module Gadwall
  module Simulator
    module Protocol
      # Cuts a message into frames as ISO 15765-2 has them, normal addressing, padded to eight bytes (from memory).
      module IsoTp
        PADDING = 0xAA
        FRAME = 8
        MOST_BYTES = 4095
        CLEAR_TO_SEND = [0x30, 0x00, 0x00].freeze

        # bytes: Array of Integer, 1 to 4095. Returns an Array of frames (Arrays of eight bytes). Raises InputError.
        def self.frames(bytes)
          unless bytes.size.between?(1, MOST_BYTES)
            raise InputError.new(field: "message", given: "#{bytes.size} bytes", expected: "1 to #{MOST_BYTES} bytes")
          end
          return [padded([bytes.size, *bytes])] if bytes.size < FRAME

          first = [0x10 | (bytes.size >> 8), bytes.size & 0xFF, *bytes.first(6)]
          rest = bytes.drop(6).each_slice(7).with_index(1).map { |part, i| padded([0x20 | (i & 0xF), *part]) }
          [first, *rest]
        end

        # The receiver's answer to a first frame: send all, without a pause.
        def self.flow_control
          padded(CLEAR_TO_SEND)
        end

        def self.padded(bytes)
          bytes + ([PADDING] * (FRAME - bytes.size))
        end
        private_class_method :padded
      end
    end
  end
end
