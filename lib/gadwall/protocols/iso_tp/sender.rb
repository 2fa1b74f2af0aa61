# frozen_string_literal: true

module Gadwall
  module Protocols
    module IsoTp
      # Sends one message after the other, as its receiver's flow control lets it.
      class Sender
        # size: of a frame, 8 or 64.
        def initialize(size: CLASSIC)
          @size = size
          @waiting = []
          stop
        end

        # Takes a message to be sent. bytes: Array of Integer; now: seconds. Raises InputError.
        def send_message(bytes, now)
          IsoTp.check!(bytes)
          @waiting << [bytes, now]
        end

        # When the next frame goes, or nil where none does before flow control comes.
        def next_at
          return @next_at if @frames
          return if @waiting.empty?

          @waiting.first.last
        end

        # The next frame. now: seconds at which it goes, from next_at on.
        def frame(now)
          begin_message(*@waiting.shift, now) unless @frames
          @frames.shift.tap { after_frame(now) }
        end

        # What a receiver says: bytes of its flow control frame. It counts only where it is waited for.
        def take_flow(data, now)
          return unless @flow_due && now <= @flow_due

          case data[0] & 0xF
          when CONTINUE
            @block = data[1].to_i.zero? ? nil : data[1]
            @separation = IsoTp.separation_s(data[2].to_i)
            @flow_due = nil
            @next_at = now
          when WAIT
            @flow_due = now + N_BS_S
          else
            stop # overflow, or a status that there is none of
          end
        end

        # Until when flow control is waited for, or nil.
        attr_reader :flow_due

        # Gives a message up where flow control stayed away (N_Bs). Returns whether it did.
        def expire(now)
          return false unless @flow_due && now > @flow_due

          stop
          true
        end

        # Is a message on its way?
        def busy?
          !@frames.nil? || @waiting.any?
        end

        # Drops what was on its way.
        def stop
          @frames = @flow_due = @next_at = @block = nil
          @separation = 0.0
        end

        private

        def begin_message(bytes, _since, now)
          @frames = IsoTp.frames(bytes, size: @size)
          @several = @frames.size > 1
          @first = true
          @next_at = now
        end

        def after_frame(now)
          return stop if @frames.empty?
          return wait_for_flow(now) if @first
          return wait_for_flow(now) if @block && (@block -= 1).zero?

          @next_at = now + @separation
        end

        def wait_for_flow(now)
          @first = false
          @flow_due = now + N_BS_S
          @next_at = nil
        end
      end
    end
  end
end
