# frozen_string_literal: true

module Gadwall
  module Quantity
    # Tyre, tone ring and speed: what frequency a wheel gives, and what a lost tooth does to it.
    # Sizes as ISO 4000-1 / ETRTO name them; rolling circumference by the ETRTO factor (all from memory).
    module WheelGeometry
      RIM_MM = { 15 => 381, 16 => 406, 17 => 432, 22.5 => 572 }.freeze
      ROLLING_FACTOR = 3.05
      TYRE = %r{\A\s*(\d{3})/(\d{2,3})\s*[A-Z]*\s*(\d{2}(?:\.5)?)\s*\z}i

      # "205/55R16" => outside diameter in mm. Raises InputError.
      def self.outside_diameter_mm(tyre)
        match = TYRE.match(tyre.to_s) or refuse(tyre)
        rim = RIM_MM[match[3].include?(".") ? match[3].to_f : match[3].to_i] || (match[3].to_f * 25.4).round
        rim + (2 * (match[1].to_i * match[2].to_i / 100.0).round)
      end

      # Metres rolled in one turn at 60 km/h.
      def self.circumference_m(tyre)
        outside_diameter_mm(tyre) * ROLLING_FACTOR / 1000.0
      end

      # Pulses a second. speed_km_h, circumference_m, teeth.
      def self.frequency_hz(speed_km_h:, circumference_m:, teeth:)
        speed_km_h / 3.6 / circumference_m * teeth
      end

      POINTS_A_TOOTH = 10 # handbook: sampling theory, from memory

      # Samples a second that a capture of so many teeth a second needs.
      def self.sample_rate(frequency_hz)
        frequency_hz * POINTS_A_TOOTH
      end

      # Teeth in a turn, from the pulses a second at a known speed; not yet a whole number.
      def self.teeth(frequency_hz:, speed_km_h:, circumference_m:)
        frequency_hz * circumference_m * 3.6 / speed_km_h
      end

      def self.refuse(tyre)
        raise InputError.new(field: "tyre", given: tyre, expected: "a size such as 205/55R16 or 315/80R22.5")
      end
      private_class_method :refuse
    end
  end
end
