# frozen_string_literal: true

module Gadwall
  module Instruments
    # A scope on a simulated vehicle: the voltage between two probes over time, tooth by tooth while a wheel turns.
    # A real one would answer the same `capture`.
    class Scope
      TEETH = 48 # common practice
      POINTS_A_TOOTH = 16
      POINTS_AT_REST = 400
      NOISE_V = 0.004 # demo: of the input
      EVENNESS = 0.04 # demo: by how much a hand turns unevenly
      RAGGED = 0.55 # demo: swing of amplitude over a turn, of a ring that runs out
      GAP_TEETH = 1
      DROPOUTS_A_TURN = 0.8 # demo: of a contact that comes and goes

      # vehicle: Simulator::VehicleUnderTest; random: Random.
      def initialize(vehicle, random: Random.new(1))
        @vehicle = vehicle
        @random = random
      end

      # circuit_id: text; probes: two nodes; state: Circuits::Harness::State (with "spin" while the wheel turns), that
      # of the vehicle where nil; turns: of the wheel; rev_s: revolutions a second. Returns a Signals::Capture of one
      # channel, "CH1".
      def capture(circuit_id, probes, state: nil, turns: 3.0, rev_s: 1.0)
        circuit = @vehicle.system.circuit_named(circuit_id)
        state ||= @vehicle.state.for_circuit(circuit_id)
        return steady(circuit, probes, state) unless state.spin && circuit.wheel?

        times, phases = turning(turns, rev_s)
        values = signal(circuit, probes, state, phases, rev_s)
        Signals::Capture.new(times, [Signals::Capture::Channel.new(name: "CH1", unit: "V", values: values)])
      end

      # Teeth of this vehicle's rings.
      def teeth
        (@vehicle.system.sheet.teeth || TEETH).to_i
      end

      # How many teeth have passed, with what the ring does to it. phase: turns; condition: Circuits::Condition.
      def tooth(phase, condition)
        count = condition.pattern == "ratio" ? teeth - 5 : teeth
        phase * count
      end

      # 0..1: how strong the signal is there.
      def strength(phase, condition)
        turn = phase % 1
        case condition.pattern
        when "one_gap"
          (turn * teeth).between?(7.0, 7.0 + GAP_TEETH) ? 0.0 : 1.0
        when "uneven"
          1.0 - (RAGGED * (0.5 + (0.5 * Math.cos(2 * Math::PI * turn))))
        else
          1.0
        end
      end

      private

      # [seconds, turns]: of samples while a hand turns the wheel, not quite evenly.
      def turning(turns, rev_s)
        count = (turns * teeth * POINTS_A_TOOTH).ceil
        step = turns / (rev_s * count)
        sway = @random.rand * 2 * Math::PI
        Array
          .new(count) do |i|
            time = i * step
            phase = (time * rev_s) + (EVENNESS / (2 * Math::PI) * Math.sin((2 * Math::PI * time * rev_s * 0.7) + sway))
            [time, phase]
          end
          .transpose
      end

      def steady(circuit, probes, state)
        level = @vehicle.wiring.sample("volts", circuit.id, probes, state).value
        times = Array.new(POINTS_AT_REST) { |i| i * 0.001 }
        values = Array.new(POINTS_AT_REST) { level + noise }
        Signals::Capture.new(times, [Signals::Capture::Channel.new(name: "CH1", unit: "V", values: values)])
      end

      def signal(circuit, probes, state, phases, rev_s)
        condition = @vehicle.wiring.condition(circuit)
        lost = lost_spans(circuit, phases)
        pulse = circuit.harness.sink ? levels(circuit, probes, state) : swing(circuit, probes, state, rev_s)
        phases.map do |phase|
          next pulse.rest + noise if lost.any? { |from, to| phase.between?(from, to) }

          pulse.at(phase, self, condition) + noise
        end
      end

      # An induced voltage: rises with speed. rest: V between teeth; peak: V.
      Swing =
        Struct.new(:rest, :peak) do
          # phase: turns; scope: Scope; condition: Circuits::Condition.
          def at(phase, scope, condition)
            rest + (peak * scope.strength(phase, condition) * Math.sin(2 * Math::PI * scope.tooth(phase, condition)))
          end
        end
      # Two levels of a current sensor. low, high: V.
      Levels =
        Struct.new(:low, :high) do
          def rest
            low
          end

          # As Swing#at.
          def at(phase, scope, condition)
            return low if condition.amplitude.zero?

            up = (scope.tooth(phase, condition) % 1) < 0.5 && scope.strength(phase, condition) > 0.2
            up ? high : low
          end
        end

      # The circuit's figure is the mean of the rectified voltage that a meter shows at one turn a second; a sine's peak
      # is 1.414 times its root mean square (handbook, from memory).
      def swing(circuit, probes, state, rev_s)
        at_rest = state.with("spin" => false)
        level = @vehicle.wiring.sample("volts", circuit.id, probes, at_rest).value
        induced = @vehicle.wiring.sample("volts", circuit.id, probes, state).value - level
        Swing.new(level, induced.abs * Math.sqrt(2) * rev_s)
      end

      def levels(circuit, probes, state)
        low, high =
          circuit.harness.sink_levels.map { |ampere| @vehicle.wiring.sample_at(circuit, probes, state, ampere) }.minmax
        Levels.new(low, high)
      end

      # Stretches without a signal, in turns, of what comes and goes: [[from, to], ...].
      def lost_spans(circuit, phases)
        return [] if @vehicle.wiring.hidden.none? { |each| each.circuit.id == circuit.id && each.presence < 1.0 }

        count = [(phases.last * DROPOUTS_A_TURN).round, 2].max
        Array.new(count) do
          from = @random.rand * phases.last
          [from, from + (0.02 + (0.1 * @random.rand))]
        end
      end

      def noise
        NOISE_V * Quantity::Normal.draw(@random)
      end
    end
  end
end
