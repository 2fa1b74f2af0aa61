# frozen_string_literal: true

module Gadwall
  module Sums
    # From foot to wheel: pressure, clamp force, torque, and what trapped air costs at the pedal (handbook: brake
    # design, from memory). Forces in N, lengths in mm but the radius in m, pressures in bar, volumes in mL.
    module Hydraulics
      # Bar in the line, without a booster.
      def self.line_bar(pedal_n:, ratio:, master_mm:)
        pedal_n * ratio / area_mm2(master_mm) * 10
      end

      # N of one caliper's pistons.
      def self.clamp_n(bar:, piston_mm:)
        bar / 10.0 * area_mm2(piston_mm)
      end

      # N·m of a disc between two faces.
      def self.torque_nm(clamp_n:, friction:, radius_m:, faces: 2)
        clamp_n * friction * radius_m * faces
      end

      # mm at the pedal for so much more fluid.
      def self.pedal_mm(fluid_ml:, master_mm:, ratio:)
        piston_mm(fluid_ml: fluid_ml, master_mm: master_mm) * ratio
      end

      # mm of the master cylinder's piston.
      def self.piston_mm(fluid_ml:, master_mm:)
        fluid_ml * 1000 / area_mm2(master_mm)
      end

      def self.area_mm2(diameter_mm)
        Math::PI * (diameter_mm**2) / 4
      end
      private_class_method :area_mm2
    end
  end
end
