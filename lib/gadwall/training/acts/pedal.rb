# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # The brake pedal, pressed or released.
      class Pedal < Act
        MINUTES = 0.1 # demo

        # As of Act.
        def perform
          to = one_of("pedal", given["to"], %w[pressed released])
          stand.spend(MINUTES)
          vehicle.set(pedal: to)
          say("Brake pedal #{to}")
        end
      end
    end
  end
end
