# frozen_string_literal: true

module Gadwall
  module Protocols
    module IsoTp
      # Puts the messages of one sender together, and says what flow control to send it.
      class Receiver
        # block, separation: what it asks of the sender; most: bytes that it has room for; alone: does it take messages
        # of one frame only, as those to everybody are?
        def initialize(block: 0, separation: 0, most: MOST_BYTES, alone: false)
          @block = block
          @separation = separation
          @most = most
          @alone = alone
          drop
        end

        # Takes a frame's data. now: seconds. Returns [message or nil, flow control frame or nil].
        def take(data, now)
          drop if @length && now - @last > N_CR_S
          case data[0].to_i >> 4
          when 0
            [single(data), nil]
          when 1
            first(data, now)
          when 2
            continued(data, now)
          else
            [nil, nil]
          end
        end

        # Is a message on its way?
        def busy?(now)
          !@length.nil? && now - @last <= N_CR_S
        end

        private

        def drop
          @length = nil
        end

        # A length of nothing, or of more than the frame holds, is no message; one that comes in between ends the last.
        def single(data)
          length = data[0] & 0xF
          start = 1
          if length.zero? && data.size > CLASSIC
            length = data[1].to_i
            start = 2
          end
          return if length.zero? || length > data.size - start || (start == 1 && length >= CLASSIC)

          drop
          data[start, length]
        end

        def first(data, now)
          return nil, nil if @alone || data.size < CLASSIC

          length, start = length_of(data)
          return nil, nil if length < [CLASSIC, data.size - 1].max
          return nil, IsoTp.flow_control(OVERFLOW) if length > @most

          @length = length
          @data = data.drop(start)
          @number = 1
          @left = @block
          @last = now
          [nil, IsoTp.flow_control(block: @block, separation: @separation)]
        end

        # Twelve bits, or thirty-two where those are nought and the message is longer than they could say.
        def length_of(data)
          short = ((data[0] & 0xF) << 8) | data[1]
          return short, 2 unless short.zero?

          long = data[2, 4].reduce(0) { |sum, byte| (sum << 8) | byte }
          [long > MOST_BYTES ? long : 0, 6]
        end

        # A wrong number drops the whole message.
        def continued(data, now)
          return nil, nil unless @length
          return drop, nil unless data[0] & 0xF == @number & 0xF

          @data.concat(data.drop(1))
          @number += 1
          @last = now
          return finished, nil if @data.size >= @length

          [nil, block_over]
        end

        def finished
          @data.first(@length).tap { drop }
        end

        def block_over
          return if @block.zero? || (@left -= 1).positive?

          @left = @block
          IsoTp.flow_control(block: @block, separation: @separation)
        end
      end
    end
  end
end
