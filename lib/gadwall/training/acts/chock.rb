# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # Wheels chocked.
      class Chock < Act
        MINUTES = 0.5 # demo
        WORD = "chock:wheels" # as plans have it

        # As of Act.
        def perform
          stand.spend(MINUTES)
          stand.make_safe(WORD)
          say("Wheels chocked")
        end
      end
    end
  end
end
