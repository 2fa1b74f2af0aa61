# frozen_string_literal: true

module Gadwall
  module Vehicle
    # What is known of the vehicle, as on its sheet. Left and right are as seated, facing forward.
    #
    # layout: "four_sensors" or "three_sensors"; sensors: {corner => "passive" | "active"}; circuits: {corner => adaptation}
    # (joints, sections, wires, values that differ from the template); power: "combustion", "hybrid", "electric";
    # tyre: "205/55R16"; teeth: of the tone ring; both optional. booster: "vacuum", "electric_pump", "air"; driver_side: "left" or "right".
    class Sheet
      POWERS = %w[combustion hybrid electric].freeze
      BOOSTERS = %w[vacuum electric_pump air].freeze
      PARK_BRAKES = %w[lever cable_puller caliper_motor].freeze
      SIDES = %w[left right].freeze

      attr_reader :name, :vin, :layout, :sensors, :circuits, :power, :booster, :park_brake, :driver_side, :modules, :tyre, :teeth

      # attributes: a Hash with String keys, as in a case file. Raises InputError that names the field.
      def initialize(attributes)
        @attributes = attributes
        @name = attributes["name"].to_s.strip
        @vin = attributes["vin"]
        @layout = one_of("layout", LAYOUTS.keys, "four_sensors")
        @power = one_of("power", POWERS, "combustion")
        @booster = one_of("booster", BOOSTERS, "vacuum")
        @park_brake = one_of("park_brake", PARK_BRAKES, "lever")
        @driver_side = one_of("driver_side", SIDES, "left")
        @sensors = sensors_from(attributes["sensors"] || "active").freeze
        @circuits = circuits_from(attributes["circuits"] || {})
        @modules = attributes["modules"] || []
        @tyre = text_or_nil(attributes["tyre"])
        Signals::WheelGeometry.outside_diameter_mm(@tyre) if @tyre
        @teeth = teeth_from(attributes["teeth"])
        freeze
      end

      def corners
        LAYOUTS.fetch(layout)
      end

      # Near side is the side of the kerb: left where the driver sits on the right.
      def side_words
        driver_side == "left" ? { "driver" => "left", "passenger" => "right" } : { "driver" => "right", "passenger" => "left" }
      end

      def to_h
        @attributes
      end

      # Pulses a second of a wheel at a speed in km/h; nil where tyre or ring is not known.
      def frequency_hz(speed_km_h)
        return unless tyre && teeth

        Signals::WheelGeometry.frequency_hz(speed_km_h: speed_km_h, circumference_m: Signals::WheelGeometry.circumference_m(tyre), teeth: teeth)
      end

      private

      def text_or_nil(text)
        text.to_s.strip.empty? ? nil : text.strip
      end

      # Teeth, or pole pairs, in one turn.
      def teeth_from(given)
        return nil if given.nil? || given.to_s.strip.empty?

        count = Integer(given.to_s, 10, exception: false)
        return count if count&.between?(12, 200)

        raise InputError.new(field: "vehicle.teeth", given: given, expected: "a whole number from 12 to 200 teeth or pole pairs")
      end

      def one_of(field, allowed, default)
        value = @attributes[field] || default
        return value if allowed.include?(value)

        raise InputError.new(field: "vehicle.#{field}", given: value, expected: "one of #{allowed.join(', ')}")
      end

      # "passive" for all, or {"front" => ..., "rear" => ...}, or by corner.
      def sensors_from(given)
        corners.to_h do |corner|
          kind = given.is_a?(Hash) ? (given[corner] || given[corner.split("_").first] || "active") : given
          unless SENSOR_KINDS.include?(kind)
            raise InputError.new(field: "vehicle.sensors.#{corner}", given: kind, expected: "passive or active")
          end
          [corner, kind]
        end
      end

      def circuits_from(given)
        unknown = given.keys - corners - [MODULE]
        return given if unknown.empty?

        raise UnknownNameError.new(field: "vehicle.circuits", given: unknown.first, known: corners + [MODULE])
      end
    end
  end
end
