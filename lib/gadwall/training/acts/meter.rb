# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # The meter held to two points of a circuit: range volts, ohms or amperes; a, b: test points.
      class Meter < Act
        MINUTES = 0.5 # demo

        # As of Act.
        def perform
          range = given["range"].to_s
          known = Instruments::Meter::UNITS.keys
          raise UnknownNameError.new(field: "meter", given: range, known: known) unless known.include?(range)

          points = probes
          stand.spend(MINUTES)
          # On the bench an ammeter is a wire of its own between two points, those of an open contact too.
          shown = stand.meter.read(range, circuit.id, points, state: state.for_circuit(circuit.id), clamped: false)
          say(
            shown.text,
            value: Quantity::Reading.new(value: shown.value, unit: shown.unit),
            test: shown.warning ? nil : test_like(range, points),
            warning: shown.warning
          )
        end

        private

        # The test that measures the same between the same points in the same state: full id, or nil.
        def test_like(range, points)
          nodes = points.map { |point| circuit.harness.node(point) }.sort
          now = state.for_circuit(circuit.id)
          found =
            circuit.model.tests.values.find do |test|
              test.kind == range && test.probes.map { |probe| circuit.harness.node(probe) }.sort == nodes &&
                same_state?(test, now)
            end
          found && "#{circuit.id}.#{found.id}"
        end

        def same_state?(test, now)
          (test.state.disconnected.sort == now.disconnected.sort || test.record["without"]) &&
            %w[key pedal].all? { |name| test.state[name] == now[name] || (name == "key" && test.kind == "ohms") } &&
            (test.state.settings.keys - %w[key pedal bus pump]).empty?
        end
      end
    end
  end
end
