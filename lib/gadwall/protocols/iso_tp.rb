# frozen_string_literal: true

module Gadwall
  module Protocols
    # Messages over frames both ways as ISO 15765-2 has them, normal addressing (from memory): single frames, first and
    # consecutive frames with flow control, block size, separation time, wait, overflow and the timers N_Bs and N_Cr.
    # Times are seconds of whoever asks; nothing here reads a clock.
    module IsoTp
      PADDING = 0xAA
      CLASSIC = 8
      FD = 64
      FD_LENGTHS = [8, 12, 16, 20, 24, 32, 48, 64].freeze # ISO 11898-1: lengths of frames with flexible data rate
      MOST_BYTES = 4095
      N_BS_S = 1.0 # a sender waits so long for flow control
      N_CR_S = 1.0 # a receiver waits so long for the next frame
      CONTINUE = 0
      WAIT = 1
      OVERFLOW = 2

      # All frames of a message, as if flow control let everything through at once. bytes: Array of Integer, 1 to 4095;
      # size: of a frame, 8 or 64. Returns an Array of Arrays. Raises InputError.
      def self.frames(bytes, size: CLASSIC)
        check!(bytes)
        first = single(bytes, size)
        return [first] if first

        head = size - 2
        rest = bytes.drop(head).each_slice(size - 1).with_index(1)
        [[0x10 | (bytes.size >> 8), bytes.size & 0xFF, *bytes.first(head)]] +
          rest.map { |part, number| padded([0x20 | (number & 0xF), *part]) }
      end

      # A whole message in one frame, or nil where it does not fit.
      def self.single(bytes, size = CLASSIC)
        return padded([bytes.size, *bytes]) if bytes.size < CLASSIC

        padded([0x00, bytes.size, *bytes]) if size > CLASSIC && bytes.size <= size - 2
      end

      # A flow control frame. status: CONTINUE, WAIT or OVERFLOW; block: frames until the next, 0 for all; separation:
      # byte STmin.
      def self.flow_control(status = CONTINUE, block: 0, separation: 0)
        padded([0x30 | status, block, separation])
      end

      # Seconds of a byte STmin: 00 to 7F milliseconds, F1 to F9 hundreds of microseconds; what is reserved counts as
      # the longest.
      def self.separation_s(byte)
        return byte / 1000.0 if byte <= 0x7F
        return (byte - 0xF0) / 10_000.0 if byte.between?(0xF1, 0xF9)

        0.127
      end

      # Filled up to the next length that a frame may have.
      def self.padded(bytes)
        length = FD_LENGTHS.find { |each| each >= bytes.size }
        bytes + ([PADDING] * (length - bytes.size))
      end

      def self.check!(bytes)
        return if bytes.size.between?(1, MOST_BYTES)

        raise InputError.new(field: "message", given: "#{bytes.size} bytes", expected: "1 to #{MOST_BYTES} bytes")
      end
    end
  end
end
