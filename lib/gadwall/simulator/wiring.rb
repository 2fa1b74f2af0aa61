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
      # Who tells the battery's voltage now: answers V; nil where the circuits' own values hold.
      attr_accessor :battery

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
        sees = state.for_circuit(circuit_id).with(forced)
        sample(kind, circuit_id, probes, sees, awake: state.awake?, volt: volt_of(state)).value
      end

      # The same in a state of that circuit, with the ohms behind the probes. state: Circuits::Harness::State; awake: is
      # a module there to feed a sensor? The block says of a Hidden whether it counts (a break-out harness in the place
      # of a joint). Returns a Circuits::Reader::Sample.
      def sample(kind, circuit_id, probes, state, awake: state.key != "off", volt: battery&.call, &counts)
        circuit = system.circuit_named(circuit_id)
        now = condition(circuit, &counts)
        reader(circuit, state.with(now.settings), volt).sample(kind, probes, now, ampere: load(circuit, awake))
      end

      # Volts between two probes while its sensor draws so many amperes. Returns a Float.
      def sample_at(circuit, probes, state, ampere)
        now = condition(circuit)
        reader(circuit, state.with(now.settings), battery&.call).read("volts", probes, now, ampere: ampere)
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

      FED_BY_BATTERY = %w[battery_volt supply_volt].freeze
      STEP_VOLT = 0.1 # a battery's voltage is taken in such steps, so that what was solved is solved once

      # A circuit that hangs on the battery follows it. volt: V, or nil.
      def reader(circuit, state, volt)
        volt &&= ((volt / STEP_VOLT).round * STEP_VOLT)
        @readers[[circuit.id, state, volt]] ||= Circuits::Reader.new(fed(circuit.harness, volt), state)
      end

      def fed(harness, volt)
        named = harness.values.keys & FED_BY_BATTERY
        volt && named.any? ? harness.with_values(named.to_h { |name| [name, volt] }, 0.0) : harness
      end

      def volt_of(state)
        state.battery_volt(system.sheet.system_voltage.to_i) if battery
      end
    end
  end
end
