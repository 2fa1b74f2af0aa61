# frozen_string_literal: true

require "io/wait"
require "socket"

module Gadwall
  module CLI
    # Serves a simulated vehicle's bus over a socket, one client at a time, until it is stopped.
    class BusServer
      MOST_LINE = 1000 # the longest frame has some 160 letters
      IDLE_S = 0.5

      # place: path of a Unix socket, or a port on the loopback address (0 for any free one); out: IO to say where;
      # clock: gives seconds, for real time, else nil. The block makes a Simulator::Listener for each client.
      def initialize(place, out:, clock: nil, &listener)
        @place = place
        @out = out
        @clock = clock
        @listener = listener
      end

      # Raises InputError where it cannot listen. Serves until the server is closed.
      def run
        server, name = listen
        @out.puts "listening on #{name}"
        @out.flush
        loop { serve(server.accept) }
      rescue IOError, Interrupt
        nil
      ensure
        server&.close
        File.delete(@place) if server.is_a?(UNIXServer) && File.socket?(@place)
      end

      private

      def listen
        if @place.match?(/\A\d{1,5}\z/)
          server = TCPServer.new("127.0.0.1", @place.to_i)
          return server, "127.0.0.1:#{server.addr[1]}"
        end
        File.delete(@place) if File.socket?(@place) && abandoned?
        [UNIXServer.new(@place), @place]
      rescue SystemCallError, ArgumentError, SocketError => error
        raise InputError.new(
                field: "--listen",
                given: @place,
                expected: "a path for a socket, or a free port (#{error.message})"
              )
      end

      # A socket that a killed server left behind.
      def abandoned?
        UNIXSocket.new(@place).close
        false
      rescue SystemCallError
        true
      end

      def serve(client)
        client.sync = true
        @clock ? in_real_time(client, @listener.call) : by_lines(client, @listener.call)
      rescue SystemCallError, IOError
        nil # the client went away
      ensure
        client.close
      end

      def by_lines(client, listener)
        while (line = client.gets("\n", MOST_LINE))
          listener.take(line).each { |answer| client.puts(answer) }
        end
      end

      # What the vehicle sends comes when it is sent.
      def in_real_time(client, listener)
        waiting = +""
        loop do
          listener.sent_up_to(@clock.call).each { |line| client.puts(line) }
          wait = [(listener.next_at || Float::INFINITY) - @clock.call, IDLE_S].min.clamp(0.0, IDLE_S)
          next unless client.wait_readable(wait)

          waiting << client.read_nonblock(4096)
          while (line = waiting.slice!(/\A[^\n]*\n/))
            listener.take(line, @clock.call).each { |answer| client.puts(answer) }
          end
          waiting.clear if waiting.bytesize > MOST_LINE
        end
      end
    end
  end
end
