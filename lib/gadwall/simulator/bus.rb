# frozen_string_literal: true

module Gadwall
  module Simulator
    # The buses of a simulated vehicle, frame by frame: whoever is plugged in gives frames with their times, and gets
    # what the vehicle sent up to a time. Time goes on only when it is told to; the vehicle's clock goes with it.
    #
    # Nodes send when their time has come; one frame after the other goes over each bus. A node answers next_at (seconds
    # or nil), run(now) (a Frame to send, or nil) and take(frame).
    class Bus
      DIAGNOSTIC = "can0"
      HEAVY = "can1"
      FRAME_S = 0.00025 # common practice: eight bytes at 500 kbit/s, some 125 bits
      LOOK_S = 0.3 # demo: monitors tell a change after so long
      SHAKE_S = 1.0 # demo: what comes and goes is drawn anew so often

      attr_reader :vehicle

      # vehicle: VehicleUnderTest; start: seconds that its clock begins at.
      def initialize(vehicle, start: 0.0)
        @vehicle = vehicle
        @base = start - vehicle.state.clock_s
        @sent = []
        @free_at = Hash.new(start)
        @nodes = vehicle.ecus.map { |ecu| DiagnosticNode.new(ecu, self) } + Heavy::Node.all(vehicle, self)
        changed
      end

      # Seconds.
      def now
        @base + vehicle.state.clock_s
      end

      # Sets the clock of whoever is plugged in; what was changed before it began was changed long ago.
      def start_at(seconds)
        @base = seconds - vehicle.state.clock_s
        @free_at.clear
        @free_at.default = seconds
        look if @look_at
      end

      # Something about the vehicle was changed: monitors look, and who can speak is asked anew.
      def changed
        @there = nil
        @look_at = vehicle.state.awake? ? now + LOOK_S : nil
      end

      # Can a module speak? ecu: Ecu.
      def there?(ecu)
        (@there ||= vehicle.speaking).include?(ecu)
      end

      # A frame from outside, at its time; an earlier one counts as now.
      def take(frame)
        advance(frame.time_s)
        @nodes.each { |node| node.take(frame) }
      end

      # When something happens next, or nil.
      def next_at
        [@nodes.filter_map { |node| ready_at(node) }.min, @look_at].compact.min
      end

      # Lets time pass up to some seconds.
      def advance(to)
        while (at = next_at) && at <= to
          pass_to(at)
          @look_at && @look_at <= at ? look : send_from(@nodes.select(&:next_at).min_by { |node| ready_at(node) })
        end
        pass_to(to)
      end

      # Frames sent since this was asked last: Array of Protocols::Frame.
      def sent
        @sent.tap { @sent = [] }
      end

      private

      def ready_at(node)
        at = node.next_at and [at, @free_at[node.bus_name]].max
      end

      def pass_to(seconds)
        vehicle.wait(seconds - now) if seconds > now
      end

      def send_from(node)
        frame = node.run(now) or return
        @free_at[frame.bus] = now + FRAME_S
        @sent << frame
      end

      # Monitors run while the key is on; what comes and goes is there or not.
      def look
        comes_and_goes = vehicle.wiring.hidden.any? { |each| each.presence < 1.0 }
        vehicle.wiring.shake if comes_and_goes
        vehicle.look
        @there = nil
        @look_at = comes_and_goes && vehicle.state.awake? ? now + SHAKE_S : nil
      end
    end
  end
end
