# frozen_string_literal: true

module Gadwall
  module Simulator
    # The circuits of a simulated vehicle with what is hidden in them: any two probes, any state, solved. It knows which
    # faults there are and how severe; it knows no likelihood.
    class Wiring
      # A fault that is in the vehicle. severity: of its kind (ohms, mostly); presence: share of the time, 0..1.
      Hidden = Struct.new(:circuit, :fault, :severity, :presence, keyword_init: true)

      attr_reader :system, :hidden
      # Who tells which modules are without power: takes a module's id, answers true or false; nil where nobody does.
      attr_accessor :unpowered

      # system: Vehicle::System; hidden: Array of Hidden; random: Random for what comes and goes.
      def initialize(system, hidden, random)
        @system = system
        @hidden = hidden
        @random = random
        @readers = {}
        @there = {}
        @put_right = Set.new
      end

      # What a perfect meter would show. kind: "volts", "ohms" or "amperes"; probes: two nodes of the circuit's harness;
      # forced: settings of the circuit that somebody holds meanwhile (a pump that is commanded). Returns a Float in V,
      # ohm or A.
      def measure(kind, circuit_id, probes, state, forced: {})
        sample(kind, circuit_id, probes, state.for_circuit(circuit_id).with(forced), awake: state.awake?).value
      end

      # The same in a state of that circuit, with the ohms behind the probes. state: Circuits::Harness::State; awake: is
      # a module there to feed a sensor? The block says of a Hidden whether it counts (a break-out harness in the place
      # of a joint). Returns a Circuits::Reader::Sample.
      def sample(kind, circuit_id, probes, state, awake: state.key != "off", &counts)
        circuit = system.circuit_named(circuit_id)
        now = condition(circuit, &counts)
        reader(circuit, state.with(now.settings)).sample(kind, probes, now, ampere: load(circuit, awake))
      end

      # Volts between two probes while its sensor draws so many amperes. Returns a Float.
      def sample_at(circuit, probes, state, ampere)
        now = condition(circuit)
        reader(circuit, state.with(now.settings)).read("volts", probes, now, ampere: ampere)
      end

      # What is wrong with a circuit at this moment: Circuits::Condition. A module without power drives nothing. The
      # block says of a Hidden whether it counts.
      def condition(circuit, &counts)
        there = present(circuit)
        there = there.select(&counts) if counts
        conditions = there.map { |each| Circuits::Effect.condition(circuit.harness, each.fault, each.severity) }
        conditions << circuit.model.unpowered if !circuit.powers? && circuit.module && unpowered&.call(circuit.module)
        conditions.reduce(Circuits::Condition::SOUND) do |sum, each|
          sum.equal?(Circuits::Condition::SOUND) ? each : sum + each
        end
      end

      # Hidden faults of a circuit that are there now.
      def present(circuit)
        hidden.select { |each| each.circuit.id == circuit.id && !put_right?(each) && there?(each) }
      end

      # A connector that was cleaned, a part that was swapped: what was changed stays changed. The fault shows no more,
      # and is still to be repaired. each: Hidden.
      def put_right(each)
        @put_right << [each.circuit.id, each.fault.id]
      end

      # Gives what the block gives while only these faults are there, always. faults: Array of Hidden.
      def with_only(faults)
        all = @hidden
        @hidden = faults.map { |each| each.dup.tap { |copy| copy.presence = 1.0 } }
        yield
      ensure
        @hidden = all
      end

      # Draws again which of those that come and go are there.
      def shake
        @there = {}
      end

      # Hides one fault more. each: Hidden.
      def harm(each)
        @hidden += [each]
      end

      # Mends all that is hidden in a circuit. Returns how many faults went.
      def mend_circuit(id)
        before = hidden.size
        @hidden = hidden.reject { |each| each.circuit.id == id }
        before - hidden.size
      end

      # Puts a place right: what was hidden there is gone. location: "circuit/place". Returns how many faults went.
      def mend(location)
        before = hidden.size
        @hidden = hidden.reject { |each| "#{each.circuit.id}/#{each.fault.place}" == location }
        before - hidden.size
      end

      private

      def put_right?(each)
        @put_right.include?([each.circuit.id, each.fault.id])
      end

      def there?(each)
        return true if each.presence >= 1.0

        @there.fetch(each) { @there[each] = @random.rand < each.presence }
      end

      def load(circuit, awake)
        return 0.0 unless awake && circuit.harness.sink

        circuit.harness.sink_levels.max
      end

      def reader(circuit, state)
        @readers[[circuit.id, state]] ||= Circuits::Reader.new(circuit.harness, state)
      end
    end
  end
end
