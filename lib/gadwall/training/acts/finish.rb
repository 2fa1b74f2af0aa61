# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # The vehicle goes back to its owner.
      # As of Act.
      class Finish < Act
        def perform
          stand.hand_back
          say(stand.right? ? "Handed back: nothing is wrong any more" : "Handed back: something is left")
        end
      end
    end
  end
end
