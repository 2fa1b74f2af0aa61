# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # An ammeter in the wire.
      class Amperes < Measured
        GHOST_AMPERE = 0.00005 # common practice: zero of a hand-held meter on milliamperes

        # As Kind#unit.
        def unit
          "A"
        end

        # As Measured#hand.
        def hand(_test, value, _meter, scatter, _lead_ohm)
          GHOST_AMPERE + (value.abs * scatter)
        end
      end
    end
  end
end
