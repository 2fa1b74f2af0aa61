# frozen_string_literal: true

module Gadwall
  module Simulator
    module Heavy
      # Diagnostic messages of heavy vehicles as frames: DM1 and DM2 of SAE J1939-73, in one frame or by the broadcast
      # of SAE J1939-21, acknowledgements of SAE J1939-21 (from memory).
      module Messages
        DM1 = 0xFECA # active codes
        DM2 = 0xFECB # previously active codes
        DM3 = 0xFECC # clears the previously active ones
        DM11 = 0xFED3 # clears the active ones
        REQUEST = 0xEA
        ACKNOWLEDGE = 0xE8
        ANNOUNCE = 0xEC
        TRANSFER = 0xEB
        EVERYBODY = 0xFF
        PRIORITY = 6
        TRANSPORT_PRIORITY = 7
        PACKET_S = 0.1 # SAE J1939-21: 50 to 200 ms between the packets of a broadcast
        AMBER = 0x04

        # Codes of a source. pgn: DM1 or DM2; codes: [[spn, fmi, count], ...]. Returns frames, each with the seconds
        # after which it goes: [[0.0, id, bytes], ...].
        def self.codes(pgn, source, codes)
          data = [codes.empty? ? 0x00 : AMBER, 0xFF]
          data.concat(codes.empty? ? [0, 0, 0, 0] : codes.flat_map { |spn, fmi, count| code(spn, fmi, count) })
          return [[0.0, id(PRIORITY, pgn >> 8, pgn & 0xFF, source), filled(data, 8)]] if data.size <= 8

          broadcast(pgn, source, data)
        end

        # positive: was it done? to: address of who asked; pgn: what he asked for.
        def self.acknowledgement(source, to, pgn, positive:)
          bytes = [positive ? 0 : 1, 0xFF, 0xFF, 0xFF, to, pgn & 0xFF, (pgn >> 8) & 0xFF, pgn >> 16]
          [0.0, id(PRIORITY, ACKNOWLEDGE, EVERYBODY, source), bytes]
        end

        def self.code(spn, fmi, count)
          [spn & 0xFF, (spn >> 8) & 0xFF, ((spn >> 16) << 5) | (fmi & 0x1F), count.clamp(0, 126)]
        end

        def self.broadcast(pgn, source, data)
          packets = data.each_slice(7).map { |part| filled(part, 7) }
          head = [0x20, data.size & 0xFF, data.size >> 8, packets.size, 0xFF, pgn & 0xFF, pgn >> 8, 0x00]
          [[0.0, id(TRANSPORT_PRIORITY, ANNOUNCE, EVERYBODY, source), head]] +
            packets.each_with_index.map do |part, i|
              [(i + 1) * PACKET_S, id(TRANSPORT_PRIORITY, TRANSFER, EVERYBODY, source), [i + 1, *part]]
            end
        end

        def self.filled(bytes, size)
          bytes + ([0xFF] * (size - bytes.size))
        end

        def self.id(priority, format, specific, source)
          (priority << 26) | (format << 16) | (specific << 8) | source
        end
        private_class_method :code, :broadcast, :filled, :id
      end
    end
  end
end
