# frozen_string_literal: true

module Gadwall
  module Evaluation
    module OwnCircuits
      # A vehicle with hidden faults, to practise on and to try the diagnosis against. It shares the circuits, and knows
      # nothing of the diagnosis: what the meter shows comes out of the solved network with the faults in it.
      class SimulatedVehicle
        # One hidden fault. severity: of its grid; condition: at a value near it; presence: how much of the time it is
        # there.
        Hidden =
          Struct.new(:circuit, :fault, :severity, :condition, :presence, keyword_init: true) do
            # Index of the hidden fault's atom in its circuit's model.
            def atom
              circuit.model.atoms.index { |each| each.fault == fault && each.severity == severity }
            end
          end

        attr_reader :hidden

        # truth: full id of a fault, or several (Array); severity: a value of its grid, drawn when nil, and then not
        # quite on the grid; presence: 1.0 is always there; noise: relative sigma of a reading; gross_error: chance of a
        # wrong measurement;
        # random: Random.
        def initialize(system, truth:, random:, severity: nil, presence: 1.0, noise: 0.03, gross_error: 0.0)
          @system = system
          @random = random
          @noise = noise
          @gross_error = gross_error
          @hidden = Array(truth).map { |id| hide(id, severity, presence) }
          @readers = {}
          @right = Set.new
        end

        # Of the first hidden fault.
        def fault
          hidden.first.fault
        end

        # Severity of the first hidden fault, as its atom has it.
        def severity
          hidden.first.severity
        end

        # Where the hidden faults are to be mended, "circuit/place".
        def places
          hidden.map { |each| "#{each.circuit.id}/#{each.fault.place}" }.uniq
        end

        # What the instrument shows. Returns a Quantity::Reading or an outcome id.
        def perform(circuit, test)
          return blunder(test) if @random.rand < (test.behaviour.at_the_place? ? @gross_error * LOOKED : @gross_error)
          return reading(circuit, test) if test.numeric?

          seen = test.behaviour.moves_something? ? wiggled(circuit, test) : watched(circuit, test)
          seen.tap { put_right(circuit, test, seen) if test.record["changes"] }
        end

        LOOKED = 0.25 # a look goes wrong so much less often than a measurement

        # The first scan: who answers, and codes as the modules' monitors set them, by their rates. A module without
        # power does not answer, nor does one that its bus does not reach.
        def scan
          now = there_now
          dead = without_power(now)
          away = dead | off_the_bus(now)
          answered = modules.to_h { |id| [id, !away.include?(id) || @random.rand > 0.98] }
          codes =
            @system
              .circuits
              .select { |circuit| circuit.module.nil? || answered[circuit.module] }
              .flat_map { |circuit| codes_of(circuit, dead, now) }
          Observations::Scan.new(seq: 0, answered: answered, codes: codes)
        end

        OVERLOOKED = 0.05 # lit lamps that nobody notes

        # The warning lamps as they are noted at intake, each lit by a hidden fault as often as its circuit lights it.
        # random: of its own, so that the readings stay what they are. Returns Array of Observations::Lamp.
        def lamps(random)
          fleeting = hidden.any? { |each| each.presence < 1.0 }
          Vehicle::Lamps
            .of(@system.catalogue, @system.circuits)
            .map do |id|
              chance = hidden.map { |each| Vehicle::Lamps.chance(@system.catalogue, id, each.circuit) }.max
              lit = random.rand < chance * (1 - OVERLOOKED)
              Observations::Lamp.new(seq: 0, id: id, lit: lit, time: lit && fleeting ? "now_and_then" : nil)
            end
        end

        private

        # What went with a change stays away.
        def put_right(circuit, test, seen)
          place = [circuit.id, test.record["changes"]]
          seen == "gone" ? @right << place : @right.delete(place)
        end

        def hide(id, severity, presence)
          circuit, fault = @system.fault(id)
          drawn = severity || graded(fault)
          value = severity || between(fault, drawn)
          Hidden.new(
            circuit: circuit,
            fault: fault,
            severity: drawn,
            condition: Circuits::Effect.condition(circuit.harness, fault, value),
            presence: presence
          ).freeze
        end

        # One of a fault's severities, as often as each is met.
        def graded(fault)
          point = @random.rand
          found = fault.severities.find { |_, weight| (point -= weight).negative? }
          (found || fault.severities.last).first
        end

        # Real severities know no grid: anywhere in the cell of the one drawn.
        def between(fault, drawn)
          values = fault.severities.map(&:first)
          values.size < 2 || !drawn.is_a?(Numeric) ? drawn : drawn * ((values[1] / values[0])**(@random.rand - 0.5))
        end

        def here(circuit)
          hidden.select { |each| each.circuit.id == circuit.id && !@right.include?([circuit.id, each.fault.place]) }
        end

        # Those of a circuit that are there at this moment.
        def present(circuit)
          here(circuit).select { |each| each.presence >= 1.0 || @random.rand < each.presence }
        end

        def there_now
          hidden.select { |each| @random.rand < each.presence }
        end

        def modules
          @system.circuits.flat_map { |circuit| [circuit.module, *circuit.harness.modules.map(&:first)] }.compact.uniq
        end

        # Modules that these hidden faults leave without power.
        def without_power(faults)
          faults
            .select { |each| each.circuit.model.unpowering&.at(each.atom)&.positive? }
            .map { |each| each.circuit.module }
        end

        CUT_OFF = 0.5 # chance of being missed from which a bus does not reach a module; from memory

        # Modules that these hidden faults of a bus keep from the scan tool.
        def off_the_bus(faults)
          faults.flat_map do |each|
            missed = each.circuit.model.monitors.of_atom(each.atom)
            each
              .circuit
              .harness
              .modules
              .map(&:first)
              .select do |id|
                missed.fetch("lost_#{id}", 0.0) >= CUT_OFF && !@system.catalogue.modules.dig(id, "at_socket")
              end
          end
        end

        def condition(circuit, faults = present(circuit))
          dead = without_power(there_now)
          own = faults.map(&:condition)
          own << circuit.model.unpowered if dead.include?(circuit.module) && !circuit.powers?
          own.concat(
            dead
              .select { |id| circuit.harness.modules.any? { |name, _| name == id } }
              .map { |id| Circuits::Condition.new(observables: ["silent_#{id}"]) }
          )
          own.reduce(Circuits::Condition::SOUND) do |sum, each|
            sum.equal?(Circuits::Condition::SOUND) ? each : sum + each
          end
        end

        def reading(circuit, test)
          harness = circuit.harness
          ampere = test.state.key == "on" && harness.sink ? harness.sink_levels.sample(random: @random) : 0.0
          now = condition(circuit, taking_part(circuit, test))
          value = reader(harness, test.state.with(now.settings)).read(test.kind, test.probes, now, ampere: ampere)
          value = value.abs if test.state.spin
          meter = @system.catalogue.meter(test.unit)
          Quantity::Reading.new(
            value: meter.shown(value * (1 + (@noise * Quantity::Normal.draw(@random)))),
            unit: test.unit
          )
        end

        # How surely faults of other circuits light a warning just now.
        def warned_by_others(circuit)
          others = there_now.reject { |each| each.circuit.id == circuit.id }
          others.map { |each| each.circuit.model.predictor.visible(each.condition, each.fault) }.max || 0.0
        end

        # Those that are there and that the test has put nothing sound in place of.
        def taking_part(circuit, test)
          present(circuit).select { |each| circuit.model.predictor.takes_part?(test, each.fault) }
        end

        def reader(harness, state)
          @readers[[harness.object_id, state]] ||= Circuits::Reader.new(harness, state)
        end

        # Looks at a place see the worst of what is there; several looks in one go catch what comes and goes.
        def watched(circuit, test)
          predictor = circuit.model.predictor
          fleeting = here(circuit).find { |each| each.presence < 1.0 }
          return caught(predictor, test, fleeting, circuit) if fleeting && test.window?

          left =
            (test.behaviour.at_the_place? ? here(circuit) : present(circuit)).select do |each|
              predictor.takes_part?(test, each.fault)
            end
          shown =
            if left.empty?
              [predictor.predict(test.when_warned(warned_by_others(circuit)), condition(circuit, []))]
            else
              left.map { |each| predictor.predict(test, condition(circuit, left), each.fault) }
            end
          draw(shown.min_by { |prediction| prediction.density(sound_outcome(test)) })
        end

        def caught(predictor, test, fleeting, circuit)
          shown = predictor.caught(test, fleeting.fault)
          seen = @random.rand > (1 - fleeting.presence)**@system.catalogue.model("window_looks")
          draw(shown && seen ? shown : predictor.predict(test, condition(circuit, here(circuit) - [fleeting])))
        end

        def sound_outcome(test)
          test.outcomes.key?("good") ? "good" : "even"
        end

        def wiggled(circuit, test)
          fleeting = here(circuit).find { |each| each.presence < 1.0 }
          predictor = circuit.model.predictor
          return draw(predictor.predict(test, Circuits::Condition::SOUND)) unless fleeting

          if @random.rand < test.behaviour.chance(predictor.places, test, fleeting.fault)
            test.outcomes.keys.last
          else
            "good"
          end
        end

        def draw(choice)
          point = @random.rand
          choice.chances.each { |outcome, chance| return outcome if (point -= chance).negative? }
          choice.chances.keys.last
        end

        # A probe on the wrong pin, a dead meter battery.
        def blunder(test)
          return test.outcomes.keys.sample(random: @random) unless test.numeric?
          return Quantity::Reading.over_limit("ohm") if test.unit == "ohm" && @random.rand < 0.4

          Quantity::Reading.new(value: test.unit == "ohm" ? Math.exp(@random.rand * 17) : 0.0, unit: test.unit)
        end

        def codes_of(circuit, dead, now)
          monitors = circuit.model.monitors
          rows = here(circuit).map { |each| monitors.of_atom(each.atom) }
          rows << monitors.unpowered if dead.include?(circuit.module) && !circuit.powers?
          rows << (dead & circuit.harness.modules.map(&:first)).to_h { |id| ["lost_#{id}", 0.95] }
          claims = rows.flat_map { |row| muted(row.select { |_, chance| @random.rand < chance }.keys, monitors) }.uniq
          current = here(circuit).intersect?(now) || here(circuit).empty?
          claims.map { |claim| code(circuit, claim, current) }
        end

        # An electrical code mutes the signal's; on a bus everyone who is missed is told.
        def muted(claims, monitors)
          lost = claims.grep(/\Alost_[a-z]/) - ["lost_message"]
          first = claims.find { |claim| monitors.key_on?([claim]) } || claims.first
          lost | [first].compact
        end

        def code(circuit, claim, current)
          Observations::CodeSeen.new(
            seq: 0,
            code: "C0031",
            status: current ? "current" : "history",
            circuit_id: circuit.id,
            claim: claim == "short" ? "electrical" : claim,
            text: ""
          )
        end
      end
    end
  end
end
