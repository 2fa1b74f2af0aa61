# frozen_string_literal: true

module Gadwall
  module Signals
    # What a gap in a ring does to the wheel speed that a controller computes, and the speeds at which it takes that for
    # slip. The model: each control window, the controller averages the tooth periods that ended in it, one at least (it
    # holds the last while none ends). A gap of g periods among n reads n / (n - 1 + g) of the speed, for as long as
    # those n periods last. It is taken for slip where it is deep enough and lasts long enough, and the vehicle is over
    # the least speed that counts. The figures stand in data/diagnosis/signal.yml and can be given anew.
    class LowSpeedDip
      FIGURES = %w[window_s slip_from slip_lasts_s moving_km_h].freeze
      STEP_KM_H = 0.1
      MOST_KM_H = 120.0

      # gap: periods (2 for one missing tooth); teeth: of a turn; circumference_m: of the wheel; figures: to put in the
      # place of window_s, slip_from, slip_lasts_s, moving_km_h. Raises InputError.
      def initialize(gap:, teeth:, circumference_m:, figures: {}, catalogue: Knowledge.catalogue)
        { "gap" => gap, "teeth" => teeth, "circumference_m" => circumference_m, **figures }.each do |field, given|
          unless given.is_a?(Numeric) && given.positive?
            raise InputError.new(field: field.to_s, given: given, expected: "a number above 0")
          end
        end
        @gap = gap
        @teeth = teeth
        @circumference_m = circumference_m
        @figures = catalogue.signal.transform_values { |row| row["value"] }.merge(figures.transform_keys(&:to_s))
      end

      # The figures of the model in use, by name.
      def figures
        @figures.slice(*FIGURES)
      end

      # Share of the speed that goes missing while the gap passes, 0..1.
      def dip(km_h)
        n = averaged(km_h)
        (@gap - 1) / (n - 1 + @gap).to_f
      end

      # Seconds for which it reads so.
      def lasts_s(km_h)
        (averaged(km_h) - 1 + @gap) / tooth_hz(km_h)
      end

      # Would a controller read wheel slip at this speed? km_h: of the vehicle.
      def slip?(km_h)
        km_h >= @figures.fetch("moving_km_h") && dip(km_h) >= @figures.fetch("slip_from") &&
          lasts_s(km_h) >= @figures.fetch("slip_lasts_s")
      end

      # [from, to] in km/h, or nil where it is never taken for slip.
      def slip_range
        inside = (1..(MOST_KM_H / STEP_KM_H)).map { |i| (i * STEP_KM_H).round(1) }.select { |km_h| slip?(km_h) }
        [inside.first, inside.last] unless inside.empty?
      end

      private

      def tooth_hz(km_h)
        Quantity::WheelGeometry.frequency_hz(speed_km_h: km_h, teeth: @teeth, circumference_m: @circumference_m)
      end

      # Periods that end in one window.
      def averaged(km_h)
        [(tooth_hz(km_h) * @figures.fetch("window_s")).floor, 1].max
      end
    end
  end
end
