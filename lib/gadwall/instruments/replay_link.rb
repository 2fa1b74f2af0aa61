# frozen_string_literal: true

module Gadwall
  module Instruments
    # A link that replays a bus log: each request gets the answers that it got then, in their order.
    class ReplayLink
      # lines: of a bus log (Protocols::LogReader). Raises InputError.
      def initialize(lines)
        @answers = Hash.new { |hash, key| hash[key] = [] }
        transport = Protocols::Transport.new
        last = nil
        Protocols::LogReader.each(lines) do |frame|
          next unless Protocols::Addresses.kind(frame)

          transport.take(frame).reject(&:error).each { |message| last = note(message, last) }
        end
      end

      # As of a link. Raises DiagnosticInterface::Lost once the log holds no such request any more.
      def exchange(id, bytes)
        found = @answers[[id, bytes]].shift
        found or
          raise DiagnosticInterface::Lost,
                "The log holds no further answer to #{bytes.map { |byte| format("%02X", byte) }.join(" ")}."
      end

      private

      # A request opens a place for the answers that follow it.
      def note(message, last)
        return place_for(message) unless answer?(message)

        last << [message.id, message.data] if last && !(message.data[0] == 0x7F && message.data[2] == 0x78)
        last
      end

      def place_for(message)
        [].tap { |place| @answers[[message.id, message.data]] << place }
      end

      def answer?(message)
        message.data[0] == 0x7F || message.data[0].to_i.anybits?(0x40)
      end
    end
  end
end
