# frozen_string_literal: true

module Gadwall
  module Simulation
    # The circuits of a simulated vehicle with what is hidden in them: any two probes, any state, solved. It knows which
    # faults there are and how severe; it knows no likelihood.
    class Wiring
      # A fault that is in the vehicle. severity: of its kind (ohms, mostly); presence: share of the time, 0..1.
      Hidden = Struct.new(:circuit, :fault, :severity, :presence, keyword_init: true)

      attr_reader :system, :hidden

      # system: Vehicle::System; hidden: Array of Hidden; random: Random for what comes and goes.
      def initialize(system, hidden, random)
        @system = system
        @hidden = hidden
        @random = random
        @readers = {}
        @there = {}
      end

      # What a perfect meter would show. kind: "volts", "ohms" or "amperes"; probes: two nodes of the circuit's harness;
      # forced: settings of the circuit that somebody holds meanwhile (a pump that is commanded). Returns a Float in V,
      # ohm or A.
      def measure(kind, circuit_id, probes, state, forced: {})
        circuit = system.circuit_named(circuit_id)
        now = condition(circuit)
        reader(circuit, state.for_circuit(circuit_id).with(forced).with(now.settings)).read(
          kind,
          probes,
          now,
          ampere: load(circuit, state)
        )
      end

      # What is wrong with a circuit at this moment: Circuits::Condition.
      def condition(circuit)
        conditions =
          present(circuit).map { |each| Circuits::Effect.condition(circuit.harness, each.fault, each.severity) }
        conditions.reduce(Circuits::Condition::SOUND) do |sum, each|
          sum.equal?(Circuits::Condition::SOUND) ? each : sum + each
        end
      end

      # Hidden faults of a circuit that are there now.
      def present(circuit)
        hidden.select { |each| each.circuit.id == circuit.id && there?(each) }
      end

      # Draws again which of those that come and go are there.
      def shake
        @there = {}
      end

      # Puts a place right: what was hidden there is gone. location: "circuit/place". Returns how many faults went.
      def mend(location)
        before = hidden.size
        @hidden = hidden.reject { |each| "#{each.circuit.id}/#{each.fault.place}" == location }
        before - hidden.size
      end

      private

      def there?(each)
        return true if each.presence >= 1.0

        @there.fetch(each) { @there[each] = @random.rand < each.presence }
      end

      def load(circuit, state)
        return 0.0 unless state.awake? && circuit.harness.sink

        circuit.harness.sink_levels.max
      end

      def reader(circuit, state)
        @readers[[circuit.id, state]] ||= Circuits::Reader.new(circuit.harness, state)
      end
    end
  end
end
