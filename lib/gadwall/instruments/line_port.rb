# frozen_string_literal: true

require "io/wait"
require "socket"

module Gadwall
  module Instruments
    # A port of Adapter on a bus that is served as lines of a log over a socket (`bin/gadwall simulate --listen`,
    # docs/formats/bus.md). The lines' own times are the clock, so nothing waits.
    class LinePort
      STEP_S = 0.005 # a read asks for so much at once

      # As of a port.
      attr_reader :now

      # place: path of a Unix socket, or "port" on the loopback address; bus: name of the bus.
      def initialize(place, bus: "can0", start: 1.0)
        @place = place.to_s
        @now = start
        @bus = bus
      end

      attr_reader :bus

      # As of a port. Raises DiagnosticInterface::Lost.
      def open
        @socket = @place.match?(/\A\d+\z/) ? TCPSocket.new("127.0.0.1", @place.to_i) : UNIXSocket.new(@place)
      rescue SystemCallError => error
        raise DiagnosticInterface::Lost, "Nothing listens at #{@place}: #{error.message}."
      end

      def close
        @socket&.close
      end

      # frame: Protocols::Frame.
      def write(frame)
        @socket.puts(frame.to_line)
      rescue SystemCallError, IOError => error
        raise DiagnosticInterface::Lost, "The line is gone: #{error.message}."
      end

      # As of a port.
      def read(seconds)
        until_s = @now + seconds
        came = []
        came = up_to([@now + STEP_S, until_s].min) while came.empty? && @now < until_s
        came
      end

      private

      def up_to(seconds)
        @socket.puts(format("# until %.6f", seconds))
        lines = []
        while (line = @socket.gets)
          return told(line, lines) if line.start_with?("# now")

          lines << line unless line.start_with?("#")
        end
        raise DiagnosticInterface::Lost, "The line is gone."
      rescue SystemCallError, IOError => error
        raise DiagnosticInterface::Lost, "The line is gone: #{error.message}."
      end

      def told(line, lines)
        @now = line.split.last.to_f
        Protocols::LogReader.each(lines).to_a
      end
    end
  end
end
