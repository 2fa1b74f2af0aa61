# frozen_string_literal: true

module Gadwall
  module Simulator
    # A port of Instruments::Adapter on the bus of a simulated vehicle: nothing waits, the bus goes on to what comes
    # next.
    class Port
      # bus: Bus.
      def initialize(bus)
        @bus = bus
      end

      def open
        @bus.changed
      end

      def close
      end

      # Name of the bus.
      def bus
        Bus::DIAGNOSTIC
      end

      def now
        @bus.now
      end

      # frame: Protocols::Frame.
      def write(frame)
        @bus.take(frame)
      end

      # As of a port.
      def read(seconds)
        until_s = now + seconds
        came = @bus.sent
        while came.empty? && (at = @bus.next_at) && at <= until_s
          @bus.advance(at)
          came = @bus.sent
        end
        @bus.advance(until_s) if came.empty?
        came
      end
    end
  end
end
