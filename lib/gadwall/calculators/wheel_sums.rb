# frozen_string_literal: true

module Gadwall
  module Calculators
    # Tyre, tone ring and speed. Each takes its inputs of data/sums/wheel.yml in their units and returns a Book::Result.
    module WheelSums
      GEOMETRY = Quantity::WheelGeometry

      module_function

      # Hz.
      def ring_frequency(tyre:, teeth:, speed:)
        rolling = GEOMETRY.circumference_m(tyre)
        hertz = GEOMETRY.frequency_hz(speed_km_h: speed, circumference_m: rolling, teeth: teeth)
        Book.result(hertz, more: [["rolling circumference", rolling, "m"], ["turns a second", hertz / teeth, "1/s"]])
      end

      # km/h.
      def ring_speed(tyre:, teeth:, frequency:)
        rolling = GEOMETRY.circumference_m(tyre)
        Book.result(frequency * rolling * 3.6 / teeth, more: [["rolling circumference", rolling, "m"]])
      end

      # Hz; with the speed that this is.
      def ring_by_hand(tyre:, teeth:, turns:)
        Book.result(turns * teeth, more: [["that is", turns * GEOMETRY.circumference_m(tyre) * 3.6, "km/h"]])
      end

      # Teeth.
      def tooth_count(tyre:, frequency:, speed:)
        count =
          GEOMETRY.teeth(frequency_hz: frequency, speed_km_h: speed, circumference_m: GEOMETRY.circumference_m(tyre))
        Book.result(count, more: [["nearest whole number", count.round, ""]])
      end

      # m.
      def tyre_size(tyre:)
        rolling = GEOMETRY.circumference_m(tyre)
        across = GEOMETRY.outside_diameter_mm(tyre)
        Book.result(rolling, more: [["outside diameter", across, "mm"], ["turns a kilometre", 1000 / rolling, "1/km"]])
      end

      # Share of the speed that is shown for a moment, %.
      def missing_tooth(teeth:, averaged:)
        whole = -100.0 / teeth
        Book.result(100.0 * averaged / (averaged + 1), more: [["over whole turns", whole, "%"]])
      end
    end
  end
end
