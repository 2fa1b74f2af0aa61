# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # The key turned: to off, on or ready.
      class Key < Act
        MINUTES = 0.2 # demo
        SAID = { "off" => "Key off", "on" => "Key on, engine off", "ready" => "Running" }.freeze

        # As of Act.
        def perform
          to = one_of("key", given["to"], SAID.keys)
          stand.spend(MINUTES)
          vehicle.set(key: to)
          say(SAID.fetch(to))
        end
      end
    end
  end
end
