# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # On the road: every monitor runs. What is apart is put together before.
      class Drive < Act
        MINUTES = 8.0 # demo
        TIMES = 3 # so often that a monitor which needs two drives has run

        # As of Act.
        def perform
          refuse("drive", "lifted", "a vehicle on its wheels", "Lower it first.") if stand.lifted?
          unless state.disconnected.values.all?(&:empty?)
            refuse("drive", "a connector disconnected", "every connector connected", "Connect them first.")
          end

          stand.spend(MINUTES)
          TIMES.times { vehicle.drive }
          lit = stand.lamps.map { |id| system.catalogue.lamps.dig(id, "short") }
          say(lit.empty? ? "Driven: no lamp" : "Driven: lit #{lit.join(", ")}")
        end
      end
    end
  end
end
