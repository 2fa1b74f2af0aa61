# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # The vehicle let down onto its wheels.
      class Lower < Act
        MINUTES = 2.0 # demo

        # As of Act.
        def perform
          refuse("lower", "wheels off", "all wheels on", "Put the wheels on first.") if stand.wheels_off.any?

          stand.spend(MINUTES)
          stand.set_down
          say("On the ground")
        end
      end
    end
  end
end
