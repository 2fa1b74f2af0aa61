# frozen_string_literal: true

module Gadwall
  module Protocols
    # Wheel speeds of heavy vehicles: EBC2 of SAE J1939-71 (from memory). The front axle's speed in 1/256 km/h, and each
    # wheel against it in 1/16 km/h from -7.8125 on.
    class WheelMessage
      GROUP = 0xFEBF
      WHEELS = %w[front_left front_right rear_left rear_right rear_two_left rear_two_right].freeze
      RELATIVE_FROM = -7.8125
      LEAST_KM_H = 5.0 # common practice: many modules show 0 below 2 to 5 km/h

      # data: 8 bytes. Returns [front axle in km/h or nil, {wheel => km/h against it}], only what is there.
      def self.decode(data)
        axle = data[0].to_i | (data[1].to_i << 8)
        wheels =
          WHEELS
            .zip(data.drop(2))
            .reject { |_, byte| byte.nil? || byte > 0xFA }
            .to_h { |wheel, byte| [wheel, RELATIVE_FROM + (byte / 16.0)] }
        [axle > 0xFAFF ? nil : axle / 256.0, wheels]
      end

      def initialize
        @seen = {}
      end

      # frame: Frame. Keeps the wheel speeds of SAE J1939-71 (from memory); passes over the rest.
      def take(frame)
        return unless frame.extended && frame.data.size == 8 && Heavy.group(frame.id) == GROUP

        axle, wheels = self.class.decode(frame.data)
        return if axle.nil?

        seen =
          @seen[[frame.bus, frame.id & 0xFF]] ||= {
            axle: [axle, axle],
            wheels: Hash.new { |sums, wheel| sums[wheel] = [0.0, 0] }
          }
        seen[:axle] = [[seen[:axle][0], axle].min, [seen[:axle][1], axle].max]
        if axle >= LEAST_KM_H
          wheels.each do |wheel, apart|
            seen[:wheels][wheel] = [seen[:wheels][wheel][0] + apart, seen[:wheels][wheel][1] + 1]
          end
        end
      end

      # [{bus:, source:, front_axle_km_h: [least, most], apart_km_h: {wheel => mean in motion}}, ...]
      def to_a
        @seen.map do |(bus, source), seen|
          {
            bus: bus,
            source: source,
            front_axle_km_h: seen[:axle].map { |value| value.round(2) },
            apart_km_h: seen[:wheels].transform_values { |sum, count| (sum / count).round(3) }
          }
        end
      end
    end
  end
end
