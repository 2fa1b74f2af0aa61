# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # A voltmeter of 10 megohms: on a wire that hangs in the air it shows anything up to some tenths of a volt, and
      # what comes through leakage only roughly.
      class Volts < Measured
        GHOST_VOLT = 0.02 # common practice: what a 10 Mohm meter picks up on an open wire
        GHOST_OHM = 2.0e6 # common practice: behind more than this a 10 Mohm meter shows ghosts
        GHOST_SPREAD = 0.12 # from memory
        GHOST_SHARE = 0.35 # from memory
        SPINNING = 0.1 # of it on alternating voltage; from memory

        # As Kind#unit.
        def unit
          "V"
        end

        # As Measured#ghost?.
        def ghost?(source_ohm)
          source_ohm >= GHOST_OHM
        end

        # As Measured#ghost.
        def ghost(source_ohm, value)
          source_ohm > GHOST_OHM ? GHOST_SPREAD + (GHOST_SHARE * value.abs) : 0.0
        end

        private

        def contact(test, _lead_ohm)
          GHOST_VOLT * (test.state.spin ? SPINNING : 1.0)
        end
      end
    end
  end
end
