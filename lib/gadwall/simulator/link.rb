# frozen_string_literal: true

module Gadwall
  module Simulator
    # A tool plugged into a simulated vehicle: an Instruments::Adapter on its bus.
    class Link < Instruments::Adapter
      START = 1_700_000_000.0

      # vehicle: VehicleUnderTest.
      def initialize(vehicle)
        @bus = Bus.new(vehicle, start: START)
        super(Port.new(@bus))
      end

      # As of an Adapter: hands may have changed the vehicle meanwhile.
      def exchange(id, bytes)
        @bus.changed
        super
      end

      # Listens to what trailer and truck say unasked for some seconds. Returns how many frames came.
      def broadcast(seconds = 1.5)
        @bus.changed
        unasked(seconds).size
      end
    end
  end
end
