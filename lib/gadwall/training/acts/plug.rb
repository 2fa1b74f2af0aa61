# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A connector put together.
      class Plug < Act
        MINUTES = 1.0 # demo

        # As of Act.
        def perform
          stand.spend(MINUTES)
          apart = stand.apart(circuit.id) - [connector.id]
          vehicle.set(disconnected: state.disconnected.merge(circuit.id => apart))
          say("#{connector.name} connected, locked")
        end
      end
    end
  end
end
