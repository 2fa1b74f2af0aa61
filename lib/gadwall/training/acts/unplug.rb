# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A connector taken apart. With the key on it writes codes, as in the shop.
      # As of Act.
      class Unplug < Act
        def perform
          reach
          danger = past(circuit)
          return danger if danger

          stand.spend(connector.minutes)
          apart = stand.apart(circuit.id) | [connector.id]
          vehicle.set(disconnected: state.disconnected.merge(circuit.id => apart))
          warning = "The key is on: modules have set codes for it." if state.awake?
          say("#{connector.name} disconnected", warning: warning)
        end

        private

        # What a connector asks for to be reached.
        def reach
          return unless connector.needs == "wheel_off"
          return if stand.wheels_off.include?(circuit.corner || circuit.id)

          refuse(
            connector.name,
            "wheel on",
            "the wheel off",
            "Lift the vehicle, put stands under it and take the wheel off first."
          )
        end
      end
    end
  end
end
