# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # The current clamp put round a wire at a connector. joint, wire: where.
      class Clamp < Act
        MINUTES = 1.0 # demo

        # As of Act.
        def perform
          stand.spend(MINUTES)
          sides = %w[near far].map { |side| "#{given["wire"]}@#{connector.id}.#{side}" }
          capture = stand.clamp.capture(circuit.id, sides, state: state.for_circuit(circuit.id))
          low, high = capture.channels.first.values.minmax
          say("#{format("%.2f", [low.abs, high.abs].max)} A at the most", capture: capture)
        end
      end
    end
  end
end
