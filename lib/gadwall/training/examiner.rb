# frozen_string_literal: true

module Gadwall
  module Training
    # Does a test of the diagnosis on a simulated vehicle, by its instruments: what a sound hand would read or see. What
    # hides from eyes and hands is drawn once for a vehicle (data/simulation/looks.yml), not from the likelihoods that
    # the diagnosis reckons with.
    class Examiner
      CAUGHT = 0.6 # demo: a watch of some minutes meets what comes and goes
      MOVES = 0.9 # demo: moving its own place brings out what comes and goes
      HARD = 0.25 # demo: moving a contact that is always bad changes it
      STRAY = 0.01 # demo: something jumps for another reason

      # vehicle: Simulator::VehicleUnderTest; random: Random; slip: share of looks that go wrong.
      def initialize(vehicle, random: Random.new(1), slip: 0.01)
        @vehicle = vehicle
        @random = random
        @slip = slip
        @meter = Instruments::Meter.new(vehicle, random: random)
        @seen = {}
      end

      # circuit: Vehicle::System::Circuit; test: Tests::Test, both of the vehicle's own System or of one wired alike.
      # Returns a Quantity::Reading or the id of an outcome.
      def perform(circuit, test)
        @vehicle.wiring.shake
        own = @vehicle.system.circuit_named(circuit.id)
        return measured(own, test) if test.numeric?
        return test.outcomes.keys.sample(random: @random) if @random.rand < @slip

        outcome = seen(own, test)
        test.outcomes.key?(outcome) ? outcome : test.outcomes.keys.first
      end

      private

      def measured(circuit, test)
        predictor = circuit.model.predictor
        shown =
          @meter.read(test.kind, circuit.id, test.probes, state: test.state) do |each|
            predictor.takes_part?(test, each.fault)
          end
        @meter.renew_fuse
        Quantity::Reading.new(value: shown.value, unit: test.unit)
      end

      def seen(circuit, test)
        case test.behaviour
        when Tests::Kinds::Signal
          signal(circuit, test)
        when Tests::Kinds::Moved
          moved(circuit, test)
        when Tests::Kinds::Looked
          looked(circuit, test)
        when Tests::Kinds::Compared
          compared(circuit, test)
        when Tests::Kinds::Cleared
          cleared(circuit)
        else
          watched(circuit, test)
        end
      end

      def hidden(circuit)
        @vehicle.wiring.hidden.select { |each| each.circuit.id == circuit.id }
      end

      # Does the test feel something that comes and goes? Not where it has put something sound in its place.
      def fleeting?(circuit, test)
        predictor = circuit.model.predictor
        hidden(circuit).any? { |each| each.presence < 1.0 && predictor.takes_part?(test, each.fault) }
      end

      def caught?(circuit, test)
        test.window? && test.outcomes.key?("dropouts") && fleeting?(circuit, test) && @random.rand < CAUGHT
      end

      # As the scope shows it, or as the module sees it.
      def signal(circuit, test)
        return "dropouts" if caught?(circuit, test)
        return "none" if mute?(circuit) && !%w[connector module_pins].include?(test.record["at"])

        name = test.behaviour.seen(circuit.model.predictor.signal, test, felt(circuit, test))
        (test.record["blind"] || {}).fetch(name, name)
      end

      # What is wrong with the circuit as the test feels it: faults whose place it has replaced take no part.
      def felt(circuit, test)
        predictor = circuit.model.predictor
        @vehicle.wiring.condition(circuit) { |each| predictor.takes_part?(test, each.fault) }
      end

      def watched(circuit, test)
        return "dropouts" if caught?(circuit, test)

        watch = circuit.model.predictor.watch
        condition = felt(circuit, test)
        faults = [*@vehicle.wiring.present(circuit).map(&:fault), nil]
        rule =
          test.record["rules"].find { |each| faults.any? { |fault| watch.holds(test, each, condition, fault) >= 0.5 } }
        rule ? rule["outcome"] : "good"
      end

      def looked(circuit, test)
        rows = test.record["rows"]
        found =
          hidden(circuit).find { |each| rows.any? { |row| each.fault.named?(row["fault"]) } && visible?(each.fault) }
        return "good" unless found

        row = rows.find { |each| found.fault.named?(each["fault"]) }
        row["outcome"].max_by(&:last).first
      end

      # Does it show to the eye? Drawn once.
      def visible?(fault)
        @seen.fetch(fault) do
          share = @vehicle.system.catalogue.looks.values.find { |row| fault.named?(row["faults"]) }
          @seen[fault] = @random.rand < (share ? share["share"] : 0.5)
        end
      end

      def moved(circuit, test)
        places = circuit.harness.places
        chance =
          hidden(circuit).map { |each| moving(test, each, test.behaviour.chance(places, test, each.fault) >= 0.5) }.max
        @random.rand < (chance || STRAY) ? test.outcomes.keys.last : "good"
      end

      def moving(_test, each, here)
        return STRAY unless here
        return MOVES if each.presence < 1.0

        %w[series disconnected].include?(each.fault.effect) ? HARD : STRAY
      end

      # A change was made and the warnings looked at again: as before, or one of them gone.
      def compared(circuit, test)
        before = @vehicle.warnings
        return "good" if before.empty?

        gone, left =
          @vehicle.wiring.hidden.partition { |each| each.circuit.id == circuit.id && removed?(test, each.fault) }
        return "same" if gone.empty? || (before - @vehicle.wiring.with_only(left) { @vehicle.warnings }).empty?

        gone.each { |each| @vehicle.wiring.put_right(each) }
        "gone"
      end

      def removed?(test, fault)
        test.record["removes"].any? { |row| row["chance"] >= 0.5 && fault.named?(row["fault"]) }
      end

      # Who is not reached cannot be cleared.
      def cleared(circuit)
        return "refused" if mute?(circuit)
        return "at_once" if @vehicle.monitored(circuit, standing).values.any?

        @vehicle.failing?(circuit, hidden(circuit)) ? "driving" : "good"
      end

      # Does its module say nothing to a tool?
      def mute?(circuit)
        circuit.module && @vehicle.ecu(circuit.module) && !@vehicle.answering?(circuit.module)
      end

      def standing
        @vehicle.state.with(key: "on", speed_km_h: 0.0)
      end
    end
  end
end
