# frozen_string_literal: true

module Gadwall
  module Calculators
    # Accumulator, pump, fluid and pedal (data/sums/hydraulics.yml).
    module HydraulicSums
      GAS = Signals::Gas
      KELVIN = 273.15

      module_function

      # mL of fluid between the two pressures; with the gas at each.
      def accumulator_volume(shell:, precharge:, low:, high:, exponent:)
        more = high > low ? [] : [["high and low are swapped", "", ""]]
        volumes =
          [low, high].map { |bar| GAS.volume_ml(bar, shell_ml: shell, precharge_bar: precharge, exponent: exponent) }
        Book.result(
          volumes.first - volumes.last,
          more: [["gas at the low pressure", volumes.first, "mL"], ["at the high one", volumes.last, "mL"], *more]
        )
      end

      # bar, in the whole shell.
      def precharge(shell:, fluid:, high:, low:)
        unless high > low
          raise InputError.new(field: "low", given: low, expected: "less than the #{high} bar that it began at")
        end

        gas = (low + GAS::ATMOSPHERE_BAR) * fluid / (high - low)
        Book.result(GAS.precharge_bar(high, gas, shell_ml: shell), more: [["gas at #{high} bar", gas, "mL"]])
      end

      # bar.
      def precharge_temperature(pressure:, from:, to:)
        absolute = pressure + GAS::ATMOSPHERE_BAR
        Book.result((absolute * (to + KELVIN) / (from + KELVIN)) - GAS::ATMOSPHERE_BAR)
      end

      # %; with the leak that it covers.
      def pump_duty(run:, rest:, flow:)
        duty = run / (run + rest)
        Book.result(duty * 100, more: [["leak", flow * duty, "mL/s"], ["lost in each rest", flow * duty * rest, "mL"]])
      end

      # L.
      def bleed_fluid(corners:, each:, unit:, reserve:)
        bare = (corners * each) + unit
        Book.result(bare * (1 + (reserve / 100.0)) / 1000.0, more: [["without reserve", bare / 1000.0, "L"]])
      end

      # bar; with the clamp of the caliper.
      def pedal_force(pedal:, ratio:, boost:, master:, caliper:)
        newton = pedal * ratio * boost
        bar = newton / area_mm2(master) * 10
        Book.result(bar, more: [["at the master cylinder", newton, "N"], ["clamp", bar / 10 * area_mm2(caliper), "N"]])
      end

      def area_mm2(diameter)
        Math::PI * diameter * diameter / 4
      end
    end
  end
end
