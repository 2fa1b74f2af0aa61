# frozen_string_literal: true

module Gadwall
  module Protocols
    # Puts messages together from frames as ISO 15765-2 does (from memory), sender by sender, however they interleave.
    #
    # First byte: 0L a single frame (00 LL on long frames), 1L LL the first of several (1000 and 32 bits beyond 4095),
    # 2N the next, 3S flow control. A wrong number drops the whole message ("sequence"); one that never ends is
    # "incomplete".
    class Transport
      TIME_OUT_S = 1.0
      MOST_BYTES = 1_000_000
      # A message that is being received.
      Open = Struct.new(:first, :length, :data, :next_number, :last_s)

      def initialize
        @open = {}
        @messages = []
      end

      # Takes a frame. Returns the Messages that it completes or spoils.
      def take(frame)
        @messages = []
        head = frame.data.first
        return @messages unless head

        case head >> 4
        when 0
          single(frame, head)
        when 1
          first(frame, head)
        when 2
          continued(frame, head & 0xF)
        end
        @messages
      end

      # What was still open at the end of the log: incomplete.
      def finish
        @open.values.map { |open| message(open.first, open.data, "incomplete") }.tap { @open = {} }
      end

      private

      def key(frame)
        [frame.bus, frame.id, frame.extended]
      end

      def single(frame, head)
        spoil(frame)
        length = head & 0xF
        start = 1
        if length.zero? && frame.data.size > 8
          length = frame.data[1].to_i
          start = 2
        end
        return if length.zero? || length > frame.data.size - start

        @messages << message(frame, frame.data[start, length], nil)
      end

      def first(frame, head)
        spoil(frame)
        return if frame.data.size < 8

        length = ((head & 0xF) << 8) | frame.data[1]
        start = 2
        if length.zero?
          length = frame.data[2, 4].reduce(0) { |sum, byte| (sum << 8) | byte }
          start = 6
        end
        return if length > MOST_BYTES || length < frame.data.size - start

        @open[key(frame)] = Open.new(frame, length, frame.data[start..].dup, 1, frame.time_s)
      end

      def continued(frame, number)
        open = @open[key(frame)] or return
        return broken(frame, "incomplete") if frame.time_s - open.last_s > TIME_OUT_S
        return broken(frame, "sequence") if number != open.next_number

        open.data.concat(frame.data.drop(1))
        open.next_number = (number + 1) & 0xF
        open.last_s = frame.time_s
        return if open.data.size < open.length

        @open.delete(key(frame))
        @messages << message(open.first, open.data.first(open.length), nil)
      end

      # A new message begins where the last one never ended.
      def spoil(frame)
        broken(frame, "incomplete") if @open.key?(key(frame))
      end

      def broken(frame, error)
        open = @open.delete(key(frame))
        @messages << message(open.first, open.data, error)
      end

      def message(frame, data, error)
        Message.new(
          time_s: frame.time_s,
          bus: frame.bus,
          id: frame.id,
          extended: frame.extended,
          data: data,
          error: error
        ).freeze
      end
    end
  end
end
