# frozen_string_literal: true

module Gadwall
  module Bench
    # A vehicle with a hidden fault, to practise on and to try the diagnosis against. It shares the circuits, and knows
    # nothing of the diagnosis: what the meter shows comes out of the solved network with the fault in it.
    class SimulatedVehicle
      # truth: full id of a fault; severity: a value of its grid, drawn when nil, and then not quite on the grid; duty: how much of the time it is
      # there (1.0 always); noise: relative sigma of a reading; botched: chance of a wrong measurement; random: Random.
      def initialize(system, truth:, random:, severity: nil, duty: 1.0, noise: 0.03, botched: 0.0)
        @system = system
        @circuit, @fault = system.fault(truth)
        @random = random
        @duty = duty
        @noise = noise
        @botched = botched
        @severity = severity || @fault.severities.sample(random: random).first
        @condition = Circuits::Effect.condition(@circuit.line, @fault, severity || between)
      end

      attr_reader :fault, :severity

      # What the instrument shows. Returns a Quantity::Reading or an outcome id.
      def perform(circuit, test)
        return blunder(test) if @random.rand < @botched

        case test.kind
        when "ohms", "volts", "amperes" then reading(circuit, test)
        when "wiggle" then wiggled(circuit, test)
        else watched(circuit, test)
        end
      end

      # The first scan: codes as the module's monitors set them, by their rates.
      def scan
        codes = @system.circuits.flat_map { |circuit| codes_of(circuit) }
        Evidence::Scan.new(seq: 0, answered: !unpowered? || @random.rand > 0.98, codes: codes)
      end

      private

      # Real severities know no grid: anywhere in the cell of the one drawn.
      def between
        values = @fault.severities.map(&:first)
        return @severity if values.size < 2 || !@severity.is_a?(Numeric)

        @severity * ((values[1] / values[0])**(@random.rand - 0.5))
      end

      def here?(circuit)
        circuit.id == @circuit.id
      end

      def present?
        @duty >= 1.0 || @random.rand < @duty
      end

      def unpowered?
        return false unless @circuit.model.unpowering

        index = @circuit.model.atoms.index { |atom| atom.fault == @fault && atom.severity == @severity }
        @circuit.model.unpowering[index].positive?
      end

      def condition(circuit)
        return Circuits::Condition::SOUND unless present?
        return @condition if here?(circuit)

        circuit.wheel? && unpowered? ? circuit.model.unpowered : Circuits::Condition::SOUND
      end

      def reading(circuit, test)
        line = circuit.line
        ampere = test.state.key == "on" && line.sink ? line.sink_levels.sample(random: @random) : 0.0
        value = Circuits::Reader.new(line, test.state).read(test.kind, test.probes, condition(circuit), ampere: ampere)
        value = value.abs if test.state.spin
        meter = @system.catalogue.meter(test.unit)
        Quantity::Reading.new(value: meter.shown(value * (1 + (@noise * gauss))), unit: test.unit)
      end

      def gauss
        Math.sqrt(-2 * Math.log(1 - @random.rand)) * Math.cos(2 * Math::PI * @random.rand)
      end

      # Several looks in one go: a fault that comes and goes shows as breaking off.
      def watched(circuit, test)
        fault = here?(circuit) ? @fault : nil
        predictor = circuit.model.predictor
        if fault && @duty < 1.0 && test.kind == "signal"
          caught = predictor.caught(test, fault)
          seen = @random.rand > (1 - @duty)**@system.catalogue.model("window_looks")
          return draw(caught && seen ? caught : predictor.predict(test, Circuits::Condition::SOUND))
        end
        draw(predictor.predict(test, fault ? @condition : condition(circuit), fault))
      end

      def wiggled(circuit, test)
        predictor = circuit.model.predictor
        return draw(predictor.predict(test, Circuits::Condition::SOUND)) unless here?(circuit) && @duty < 1.0

        @random.rand < predictor.wiggle_chance(test, @fault) ? test.outcomes.keys.last : "good"
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

      def codes_of(circuit)
        atom = circuit.model.atoms.index { |each| here?(circuit) && each.fault == @fault && each.severity == @severity }
        monitors = circuit.model.monitors
        row = if atom then monitors.by_atom[atom]
              else circuit.wheel? && unpowered? ? monitors.unpowered : {}
              end
        claims = row.select { |_, chance| @random.rand < chance }.keys
        claims &= [claims.find { |claim| monitors.key_on?([claim]) } || claims.first] # an electrical code mutes the signal's
        claims.map { |claim| code(circuit, claim) }
      end

      def code(circuit, claim)
        Evidence::CodeSeen.new(seq: 0, code: "C0031", status: present? ? "current" : "history", circuit_id: circuit.id,
                               claim: claim == "short" ? "electrical" : claim, text: "")
      end
    end
  end
end
