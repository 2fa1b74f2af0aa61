# frozen_string_literal: true

module Gadwall
  module Calculators
    # Brake forces, distances, slopes and pads (data/sums/braking.yml).
    module BrakeSums
      GRAVITY = 9.80665
      IMBALANCE = 25 # common practice: more between the wheels of an axle is a fault; local rules decide

      module_function

      # m/s2; with the difference between left and right of each axle.
      def roller_bench(forces:, mass:)
        values = Book.numbers("forces", forces)
        deceleration = values.sum / mass
        axles =
          values
            .each_slice(2)
            .with_index(1)
            .filter_map do |(left, right), axle|
              next unless right && [left, right].max.positive?

              ["left to right, axle #{axle}", (left - right).abs / [left, right].max * 100, "%"]
            end
        Book.result(deceleration, more: [["of the weight", deceleration / GRAVITY * 100, "%"], *axles])
      end

      # m.
      def stopping_distance(speed:, deceleration:, reaction:)
        metres = speed / 3.6
        rolled = metres * reaction
        braked = metres * metres / (2 * deceleration)
        Book.result(rolled + braked, more: [["before it brakes", rolled, "m"], ["braking", braked, "m"]])
      end

      # m/s2.
      def mean_deceleration(speed:, at_80:, at_10:)
        unless at_10 > at_80
          raise InputError.new(field: "at_10", given: at_10, expected: "more than the distance at 80 % of the speed")
        end

        Book.result((((0.8 * speed)**2) - ((0.1 * speed)**2)) / (25.92 * (at_10 - at_80)))
      end

      # N along the slope; with torque and clamp of each braked wheel.
      def slope_hold(mass:, grade:, tyre:, wheels:, friction:, radius:)
        force = mass * GRAVITY * Math.sin(Math.atan(grade / 100.0))
        torque = force * Quantity::WheelGeometry.circumference_m(tyre) / (2 * Math::PI) / wheels
        Book.result(
          force,
          more: [
            ["torque, each wheel", torque, "N m"],
            ["clamp, each wheel", torque / (2 * friction * radius / 1000.0), "N"]
          ]
        )
      end

      # km left; with the range that the gauge leaves open.
      def pad_life(now:, then:, distance:, least:, gauge:)
        before = binding.local_variable_get(:then)
        unless before > now
          raise InputError.new(field: "then", given: before, expected: "more than the #{now} mm that are left now")
        end

        left = ->(worn, above) { worn.positive? ? [above, 0].max * distance / worn : Float::INFINITY }
        worn = before - now
        low = left.call(worn + gauge, now - least - (gauge / 2))
        high = left.call(worn - gauge, now - least + (gauge / 2))
        Book.result(
          left.call(worn, now - least),
          more: [
            ["worn", worn / distance * 1000, "mm / 1000 km"],
            ["at least", low, "km"],
            ["at most", high.infinite? ? "not known" : high, "km"]
          ]
        )
      end
    end
  end
end
