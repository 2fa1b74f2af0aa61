# frozen_string_literal: true

module Gadwall
  module Simulator
    module Protocol
      # Active codes as heavy vehicles send them: DM1 of SAE J1939-73, in one frame or by the broadcast of SAE J1939-21
      # (from memory).
      module Dm1
        PRIORITY = 6
        DM1 = 0xFECA
        ANNOUNCE = 0xEC
        TRANSFER = 0xEB
        EVERYBODY = 0xFF
        AMBER = 0x04

        # source: address; codes: [[spn, fmi, count], ...]. Returns frames: [[id, bytes], ...].
        def self.frames(source, codes)
          data = [codes.empty? ? 0x00 : AMBER, 0xFF]
          data.concat(codes.empty? ? [0, 0, 0, 0] : codes.flat_map { |spn, fmi, count| code(spn, fmi, count) })
          return [[id(DM1 >> 8, DM1 & 0xFF, source), data + ([0xFF] * (8 - data.size))]] if data.size <= 8

          broadcast(source, data)
        end

        def self.code(spn, fmi, count)
          [spn & 0xFF, (spn >> 8) & 0xFF, ((spn >> 16) << 5) | (fmi & 0x1F), count & 0x7F]
        end

        def self.broadcast(source, data)
          packets = data.each_slice(7).map { |part| part + ([0xFF] * (7 - part.size)) }
          head = [0x20, data.size & 0xFF, data.size >> 8, packets.size, 0xFF, DM1 & 0xFF, DM1 >> 8, 0x00]
          [[id(ANNOUNCE, EVERYBODY, source), head]] +
            packets.each_with_index.map { |part, i| [id(TRANSFER, EVERYBODY, source), [i + 1, *part]] }
        end

        def self.id(format, specific, source)
          (PRIORITY << 26) | (format << 16) | (specific << 8) | source
        end
        private_class_method :code, :broadcast, :id
      end
    end
  end
end
