# frozen_string_literal: true

module Gadwall
  module Signals
    # Yaw rate from what else a vehicle knows (handbook: vehicle dynamics, from memory). Left turns are positive (ISO 8855);
    # speeds in m/s, angles in degrees, rates in degrees a second.
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

      # From the lateral acceleration in m/s2; nil when too slow to tell.
      def self.yaw_of_lateral(speed_m_s, lateral_m_s2)
        speed_m_s < 2 ? nil : lateral_m_s2 / speed_m_s * DEGREES
      end

      # Radius of the bend in m.
      def self.radius(speed_m_s, yaw_deg_s)
        speed_m_s / (yaw_deg_s / DEGREES)
      end

      def self.lateral(speed_m_s, yaw_deg_s)
        speed_m_s * yaw_deg_s / DEGREES
      end
    end
  end
end
