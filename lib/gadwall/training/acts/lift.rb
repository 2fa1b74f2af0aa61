# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # The vehicle lifted; without chocks it rolls.
      class Lift < Act
        MINUTES = 2.0 # demo

        # As of Act.
        def perform
          stand.spend(MINUTES)
          return stand.ends("chock") unless stand.safe?(Chock::WORD)

          stand.lifted = true
          say("Lifted")
        end
      end
    end
  end
end
