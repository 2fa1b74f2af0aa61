# frozen_string_literal: true

module Gadwall
  module Signals
    # The gas of an accumulator: p V^n = constant with absolute pressure; n is 1.0 when slow, 1.4 when fast (handbook:
    # gas laws, from memory). Pressures in bar as a gauge shows them, volumes in millilitres.
    module Gas
      ATMOSPHERE_BAR = 1.01325

      # Millilitres of gas at a pressure. precharge_bar: in the whole shell_ml.
      def self.volume_ml(pressure_bar, shell_ml:, precharge_bar:, exponent: 1.0)
        shell_ml * ((absolute(precharge_bar) / absolute(pressure_bar))**(1 / exponent))
      end

      # Pressure of the gas in the whole shell, from its volume at a pressure (slowly).
      def self.precharge_bar(pressure_bar, volume_ml, shell_ml:)
        (absolute(pressure_bar) * volume_ml / shell_ml) - ATMOSPHERE_BAR
      end

      # Pressure of the gas in the whole shell, from the fluid that goes in between two pressures (slowly).
      def self.precharge_from_fluid(fluid_ml, high_bar:, low_bar:, shell_ml:)
        (fluid_ml / (shell_ml * ((1 / absolute(low_bar)) - (1 / absolute(high_bar))))) - ATMOSPHERE_BAR
      end

      def self.absolute(bar)
        bar + ATMOSPHERE_BAR
      end
      private_class_method :absolute
    end
  end
end
