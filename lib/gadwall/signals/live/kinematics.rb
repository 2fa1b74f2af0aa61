# frozen_string_literal: true

module Gadwall
  module Signals
    # Yaw rate from what else a vehicle knows (handbook: vehicle dynamics, from memory). Left turns are positive (ISO
    # 8855); speeds in m/s, angles in degrees, rates in degrees a second.
    module Kinematics
      DEGREES = 180 / Math::PI

      # From the two wheels of an unsteered axle.
      def self.yaw_of_wheels(left_m_s, right_m_s, track_m:)
        (right_m_s - left_m_s) / track_m * DEGREES
      end

      # From the steering wheel, with the understeer of the characteristic speed.
      def self.yaw_of_steering(speed_m_s, steering_deg, wheelbase_m:, ratio:, characteristic_m_s:)
        road = steering_deg / ratio / DEGREES
        speed_m_s * Math.tan(road) / (wheelbase_m * (1 + ((speed_m_s / characteristic_m_s.to_f)**2))) * DEGREES
      end

      # The other way round: degrees of the steering wheel for a yaw rate.
      def self.steering_of_yaw(speed_m_s, yaw_deg_s, wheelbase_m:, ratio:, characteristic_m_s:)
        Math.atan(yaw_deg_s / DEGREES * wheelbase_m * (1 + ((speed_m_s / characteristic_m_s.to_f)**2)) / speed_m_s) *
          DEGREES * ratio
      end

      # From the lateral acceleration in m/s2; nil when too slow to tell.
      def self.yaw_of_lateral(speed_m_s, lateral_m_s2)
        speed_m_s < 2 ? nil : lateral_m_s2 / speed_m_s * DEGREES
      end

      # Where the wheels of a vehicle point and what circles they draw, without slip (Ackermann). radius_m: of the
      # middle of the unsteered axle. Returns {inner_deg:, outer_deg:, mean_deg:, rear_m: [inner, outer], front_m:
      # [inner, outer]}.
      def self.circles(radius_m, wheelbase_m:, track_m:)
        rear = [radius_m - (track_m / 2), radius_m + (track_m / 2)]
        inner, outer = rear.map { |radius| Math.atan2(wheelbase_m, radius) * DEGREES }
        {
          inner_deg: inner,
          outer_deg: outer,
          mean_deg: Math.atan2(wheelbase_m, radius_m) * DEGREES,
          rear_m: rear,
          front_m: rear.map { |radius| Math.hypot(radius, wheelbase_m) }
        }
      end

      # Share of the speed that a wheel lags behind the vehicle.
      def self.slip(vehicle_m_s, wheel_m_s)
        (vehicle_m_s - wheel_m_s) / vehicle_m_s.to_f
      end

      # Radius of the bend in m.
      def self.radius(speed_m_s, yaw_deg_s)
        speed_m_s / (yaw_deg_s / DEGREES)
      end

      # Lateral acceleration in m/s2 of a bend. speed_m_s; yaw_deg_s: degrees per second. Source: circular motion.
      def self.lateral(speed_m_s, yaw_deg_s)
        speed_m_s * yaw_deg_s / DEGREES
      end
    end
  end
end
