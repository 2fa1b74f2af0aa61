# frozen_string_literal: true

module Gadwall
  module Protocols
    # Active codes of heavy vehicles: DM1 of SAE J1939-73, in one frame or put together by the transport protocol of
    # SAE J1939-21 (broadcast BAM or RTS; from memory).
    class Heavy
      DM1 = 0xFECA
      CONNECTION = 0xEC00
      TRANSFER = 0xEB00
      BROADCAST = 0x20
      REQUEST_TO_SEND = 0x10
      MOST_BYTES = 1785
      LAMPS = { "malfunction" => 6, "red" => 4, "amber" => 2, "protect" => 0 }.freeze
      STATES = { 1 => "on", 2 => "error" }.freeze

      # One active code. lamps: {"amber" => "on"}, only those that light.
      Code = Struct.new(:bus, :source, :spn, :fmi, :count, :lamps, keyword_init: true)
      Open = Struct.new(:length, :packets, :pgn, :data, :next_packet)

      # Parameter group and source of a 29-bit id; the group of a message to one address has its low byte cleared.
      def self.group(id)
        pgn = (id >> 8) & 0x3FFFF
        ((pgn >> 8) & 0xFF) < 240 ? pgn & 0x3FF00 : pgn
      end

      def initialize
        @open = {}
        @codes = {}
      end

      # frame: Frame. Keeps what SAE J1939-73 active messages say; passes over the rest.
      def take(frame)
        return unless frame.extended

        case self.class.group(frame.id)
        when DM1
          decode(frame.bus, frame.id & 0xFF, frame.data)
        when CONNECTION
          connect(frame)
        when TRANSFER
          transfer(frame)
        end
      end

      # Codes as last seen, by bus, source and number.
      def codes
        @codes.values.flatten
      end

      private

      def key(frame)
        [frame.bus, frame.id & 0xFFFF]
      end

      def connect(frame)
        data = frame.data
        return if data.size < 8 || ![BROADCAST, REQUEST_TO_SEND].include?(data[0])

        length = data[1] | (data[2] << 8)
        if length.between?(9, MOST_BYTES)
          @open[key(frame)] = Open.new(length, data[3], data[5] | (data[6] << 8) | (data[7] << 16), [], 1)
        end
      end

      def transfer(frame)
        open = @open[key(frame)] or return
        return @open.delete(key(frame)) if frame.data.size < 8 || frame.data[0] != open.next_packet

        open.data.concat(frame.data.drop(1))
        open.next_packet += 1
        return if open.data.size < open.length

        @open.delete(key(frame))
        decode(frame.bus, frame.id & 0xFF, open.data.first(open.length)) if open.pgn == DM1
      end

      # Bytes 1 and 2 are lamps, then four bytes a code.
      def decode(bus, source, data)
        return if data.size < 6

        lamps = LAMPS.filter_map { |name, shift| (state = STATES[(data[0] >> shift) & 3]) && [name, state] }.to_h
        @codes[[bus, source]] = data.drop(2).each_slice(4).filter_map { |group| code(bus, source, group, lamps) }
      end

      def code(bus, source, group, lamps)
        return if group.size < 4 || group == [0, 0, 0, 0] || group == [255, 255, 255, 255]

        spn = group[0] | (group[1] << 8) | ((group[2] >> 5) << 16)
        unless spn.zero? && group[2].nobits?(0x1F)
          Code.new(
            bus: bus,
            source: source,
            spn: spn,
            fmi: group[2] & 0x1F,
            count: group[3] & 0x7F,
            lamps: lamps
          ).freeze
        end
      end
    end
  end
end
