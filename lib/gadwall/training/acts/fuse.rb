# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A new fuse in the meter.
      class Fuse < Act
        MINUTES = 1.0 # demo
        MONEY = 4 # demo

        # As of Act.
        def perform
          stand.spend(MINUTES, MONEY)
          stand.meter.renew_fuse
          say("New fuse in the meter")
        end
      end
    end
  end
end
