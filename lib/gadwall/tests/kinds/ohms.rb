# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # An ohmmeter: the sources are off, its leads count.
      class Ohms < Measured
        DAMP_OHM = 2.0e6 # common practice: above this, leakage is whatever the day's damp makes it
        DAMP = 0.6

        # As Kind#unit.
        def unit
          "ohm"
        end

        # As Measured#sources_off?.
        def sources_off?
          true
        end

        # As Measured#least.
        def least(value)
          value > DAMP_OHM ? DAMP : 0.0
        end

        private

        def contact(_test, lead_ohm)
          lead_ohm
        end
      end
    end
  end
end
