# frozen_string_literal: true

module Gadwall
  module Instruments
    # A current clamp around a wire of a simulated vehicle: amperes over time while something is switched on. A real one
    # would answer the same `capture`.
    class Clamp
      POINTS = 600
      INRUSH = 3.0 # handbook: a direct-current motor at rest draws its stall current for a moment, from memory
      INRUSH_S = 0.04 # demo
      FREE_SHARE = 0.45 # demo: of the working current while a motor runs free
      CLAMP_SHARE = 2.4 # demo: at the end of its travel
      TRAVEL_S = 0.9 # demo
      CUT_OFF_S = 1.3 # demo
      ZERO_A = 0.02 # common practice: a clamp's zero wanders by some tens of milliamperes

      # vehicle: Simulator::VehicleUnderTest; random: Random.
      def initialize(vehicle, random: Random.new(1))
        @vehicle = vehicle
        @random = random
      end

      # circuit_id: text; probes: the two sides of a contact or joint in the wire; state: Circuits::Harness::State.
      # Returns a Signals::Capture of one channel, "CLAMP".
      def capture(circuit_id, probes, state: nil)
        state ||= @vehicle.state.for_circuit(circuit_id)
        level = @vehicle.wiring.sample("amperes", circuit_id, probes, state).value.abs
        signs = @vehicle.wiring.condition(@vehicle.system.circuit_named(circuit_id)).observables
        times = Array.new(POINTS) { |i| i * 2.0 / POINTS }
        motor = state["command"] != "none"
        values = times.map { |time| (motor ? motor_at(time, level, signs) : level) + noise }
        Signals::Capture.new(times, [Signals::Capture::Channel.new(name: "CLAMP", unit: "A", values: values)])
      end

      private

      # Inrush, free run, clamp, cut-off; a stalled motor draws its inrush until it is cut off, one that finds nothing
      # to clamp runs on.
      def motor_at(time, level, signs)
        return 0.0 if time < 0.1
        return 0.0 if time > CUT_OFF_S
        return level * INRUSH if signs.include?("stalled")

        since = time - 0.1
        free = level * (FREE_SHARE + ((INRUSH - FREE_SHARE) * Math.exp(-since / INRUSH_S)))
        return free if since < TRAVEL_S || signs.include?("free")

        [free + (level * CLAMP_SHARE * (since - TRAVEL_S) / (CUT_OFF_S - TRAVEL_S - 0.1)), level * CLAMP_SHARE].min
      end

      def noise
        ZERO_A * Quantity::Normal.draw(@random)
      end
    end
  end
end
