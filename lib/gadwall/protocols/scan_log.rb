# frozen_string_literal: true

module Gadwall
  module Protocols
    # From the frames of a log to the modules that were asked and what they said. Nothing is kept of the frames
    # themselves.
    class ScanLog
      ANSWER_WITHIN_S = 6.0 # common practice: P2* of 5 s after 'response pending', and some

      # lines: of a log, as LogReader takes them. Raises InputError.
      def self.read(lines)
        new.tap { |log| LogReader.each(lines, skipped: log.skipped) { |frame| log.take(frame) } }.tap(&:finish)
      end

      def initialize
        @transport = Transport.new
        @heavy = Heavy.new
        @wheels = WheelMessage.new
        @conversations = {}
        @requests = []
        @frames = 0
        @skipped = Hash.new(0)
      end

      # frames: how many were read; skipped: {name of LogReader::SKIPPED => how many}.
      attr_reader :frames, :skipped

      # frame: Frame, in file order.
      def take(frame)
        @frames += 1
        @heavy.take(frame)
        @wheels.take(frame)
        return unless Addresses.kind(frame)

        @transport.take(Addresses.mixed?(frame) ? inner(frame) : frame).each { |message| read(message) }
      end

      # What the log says once it has ended. Returns self.
      def finish
        @transport.finish.each { |message| read(message) }
      end

      # Array of Conversation, in the order of their ids.
      def conversations
        @conversations
          .values
          .select { |each| each.asked? || each.answered? }
          .sort_by { |each| [each.bus, each.extended ? 1 : 0, each.request_id] }
      end

      # Array of Heavy::Code.
      def heavy_codes
        @heavy.codes
      end

      # As WheelMessage#to_a.
      def wheels
        @wheels.to_a
      end

      private

      REQUESTS = [
        0x01,
        0x03,
        0x04,
        0x07,
        0x09,
        0x0A,
        0x10,
        0x11,
        0x14,
        0x19,
        0x22,
        0x23,
        0x24,
        0x27,
        0x28,
        0x2A,
        0x2C,
        0x2E,
        0x2F,
        0x31,
        0x34,
        0x35,
        0x36,
        0x37,
        0x3D,
        0x3E,
        0x85,
        0x86,
        0x87
      ].freeze
      ANSWERS = (REQUESTS.map { |service| service + 0x40 } + [Conversation::NEGATIVE]).freeze

      # Without the byte that extends its address.
      def inner(frame)
        frame.dup.tap { |copy| copy.data = frame.data.drop(1) }
      end

      def read(message)
        case direction(message)
        when :request
          request(message)
        when :answer
          answer(message)
        end
      end

      def direction(message)
        kind = Addresses.kind(message)
        return kind unless kind == :either
        return :answer if message.error || ANSWERS.include?(message.data[0])

        REQUESTS.include?(message.data[0]) ? :request : nil
      end

      def conversation(bus, request_id, extended)
        @conversations[[bus, request_id, extended]] ||= Conversation.new(bus, request_id, extended)
      end

      def request(message)
        conversation(message.bus, message.id, message.extended).asked! unless wants_no_answer?(message)
        @requests << message
        @requests.shift while @requests.size > 64 || message.time_s - @requests.first.time_s > ANSWER_WITHIN_S
      end

      def answer(message)
        asked = conversation(message.bus, request_for(message), message.extended)
        message.error ? asked.break_off(message.id, message.error) : asked.answer(message.id, message.data)
      end

      QUIET = [0x10, 0x11, 0x28, 0x3E, 0x85].freeze # services whose answer may be suppressed (ISO 14229-1, from memory)

      def wants_no_answer?(message)
        QUIET.include?(message.data[0]) && message.data[1].to_i.anybits?(0x80)
      end

      # By the usual distance of ids, where such a request was seen; else the last request of the same service that
      # waits; else the usual distance all the same (asked by broadcast).
      def request_for(message)
        usual = Addresses.request_of(message.id, message.extended)
        return usual if message.extended || @conversations.key?([message.bus, usual, false])

        service = message.data[0] == Conversation::NEGATIVE ? message.data[1] : message.data[0].to_i - 0x40
        waiting =
          @requests.reverse.find do |each|
            each.bus == message.bus && !each.extended && each.data[0] == service && !answered_elsewhere?(each, message)
          end
        waiting ? waiting.id : usual
      end

      def answered_elsewhere?(request, message)
        known = @conversations[[request.bus, request.id, false]]
        known&.answered? && known.answer_id != message.id
      end
    end
  end
end
