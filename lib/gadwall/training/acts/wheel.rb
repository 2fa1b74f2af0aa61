# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A wheel taken off or put on.
      class Wheel < Act
        MINUTES = 3.0 # demo
        CORNERS = (Vehicle::CORNERS.keys + %w[trailer_left trailer_right]).freeze

        # As of Act.
        def perform
          corner = given["corner"].to_s
          raise UnknownNameError.new(field: "wheel", given: corner, known: CORNERS) unless CORNERS.include?(corner)

          refuse("wheel", corner, "a lifted vehicle", "Lift it first.") unless stand.lifted?
          stand.spend(MINUTES)
          off = given["to"] == "off"
          return stand.ends("stands") if off && !stand.safe?(Stands::WORD)

          stand.wheel(corner, off: off)
          say("Wheel #{corner.tr("_", " ")} #{off ? "off" : "on"}")
        end
      end
    end
  end
end
