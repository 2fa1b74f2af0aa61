# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # The scope held to two points. rev_s: revolutions a second of the wheel, by hand; 0 stands still.
      class Scope < Act
        MOST_TURNS = 4.0
        FASTEST = 3.0 # revolutions a second that a hand turns a wheel at; from memory
        MINUTES = { turned: 2.0, still: 1.0 }.freeze # demo

        # As of Act.
        def perform
          rev_s = Float(given["rev_s"] || 0, exception: false).to_f.clamp(0.0, FASTEST)
          turned = rev_s.positive?
          turns if turned
          stand.spend(MINUTES.fetch(turned ? :turned : :still))
          capture = captured(rev_s, turned ? { "spin" => true, "key" => key } : {})
          low, high = capture.channels.first.values.minmax
          volts = [high - low, low, high].map { |volt| format("%.2f", volt) }
          say("#{volts[0]} V peak to peak, #{volts[1]} to #{volts[2]} V", capture: capture)
        end

        private

        def key
          state.awake? ? "on" : "off"
        end

        def captured(rev_s, spin)
          stand.scope.capture(
            circuit.id,
            probes,
            state: state.for_circuit(circuit.id).with(spin),
            turns: [rev_s * 3, MOST_TURNS].min.clamp(0.5, MOST_TURNS),
            rev_s: [rev_s, 0.2].max
          )
        end

        # A wheel turns by hand only off the ground.
        def turns
          return if stand.lifted? || circuit.corner.nil?

          refuse("wheel", "on the ground", "a lifted vehicle", "Lift it first.")
        end
      end
    end
  end
end
