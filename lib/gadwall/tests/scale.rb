# frozen_string_literal: true

module Gadwall
  module Tests
    # The scale on which readings of a kind are compared: logarithmic for ohms and for the voltage of a turning wheel,
    # straight for the rest. The logarithm is of value + floor, so that 0.0 has a place and half an ohm of lead does not
    # look like a decade.
    class Scale
      FLOORS = { "ohm" => 0.3, "V" => 0.005 }.freeze # probe contact; noise of a hand-held meter on AC
      LIMIT_BLUR = 0.5 # meters give up somewhere between 20 and 100 Mohm
      SQRT2 = Math.sqrt(2)
      NOTHING = 0.01 # V: as little is typed where the display jumps about zero
      NOTHING_BLUR = 0.05 # common practice: under a tenth of a volt is "nothing there", and is typed as 0

      attr_reader :unit, :meter

      # unit: "ohm", "V" or "A"; meter: Quantity::Meter; log: whether to compare ratios.
      def initialize(unit, meter, log: unit == "ohm")
        @unit = unit
        @meter = meter
        @floor = log ? FLOORS.fetch(unit) : nil
        @log_limit = unit == "ohm" ? of(meter.limit) : nil
      end

      # A value in the bare unit (ohm, V, A), on the scale.
      def of(value)
        @floor ? Math.log([value, 0.0].max + @floor) : value
      end

      # A position on the scale, in the bare unit.
      def back(position)
        @floor ? [Math.exp(position) - @floor, 0.0].max : position
      end

      # Where 0.0 stands.
      def zero
        of(0.0)
      end

      # A spread in the bare unit at a value, turned into a spread on the scale.
      def spread(value, sigma)
        @floor ? sigma / (value.abs + @floor) : sigma
      end

      # One sigma, on the scale, by which a value as it was entered may stand for another: zero volts are told for some
      # hundredths.
      def told_roughly(value)
        unit == "V" && @floor.nil? && value.abs < NOTHING ? NOTHING_BLUR : 0.0
      end

      # Chance (0..1) that the meter shows over limit. mean, sigma: on the scale.
      def over_limit_chance(mean, sigma)
        return 0.0 unless @log_limit

        0.5 * Math.erfc((@log_limit - mean) / (Math.sqrt((sigma**2) + (LIMIT_BLUR**2)) * SQRT2))
      end

      # Can the meter show over limit on it?
      def over_limit?
        !@log_limit.nil?
      end

      # How a wrongly taken measurement reads: nothing (over limit, or zero) two times in five, otherwise anything.
      def gross_error_density(reading)
        return 0.4 if reading.over_limit?
        return 0.6 / (of(meter.limit || 16.0) - zero) if @floor && (unit == "ohm" || reading.value > 0.05)

        zone, range =
          if unit == "V"
            [@floor ? 1.0 : 0.05, 16.0]
          else
            [0.0002, 0.04]
          end
        @floor || reading.value.abs <= zone ? 0.4 / (2 * zone) : 0.6 / range
      end
    end
  end
end
