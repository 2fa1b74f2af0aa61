# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # Stands put under a lifted vehicle.
      class Stands < Act
        MINUTES = 1.0 # demo
        WORD = "stands"

        # As of Act.
        def perform
          refuse("stands", "on the ground", "a lifted vehicle", "Lift it first.") unless stand.lifted?

          stand.spend(MINUTES)
          stand.make_safe(WORD)
          say("Stands under it, weight on them")
        end
      end
    end
  end
end
