# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # The battery's support unit, on or off.
      class Support < Act
        MINUTES = 2.0 # demo

        # As of Act.
        def perform
          on = given["to"] == "on"
          stand.spend(MINUTES)
          vehicle.set(support: on)
          say(on ? "Battery support on" : "Battery support off")
        end
      end
    end
  end
end
