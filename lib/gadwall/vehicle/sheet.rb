# frozen_string_literal: true

module Gadwall
  module Vehicle
    # What is known of the vehicle, as on its sheet. Left and right are as seated, facing forward.
    #
    # Its plain questions and their answers are Vehicle::FIELDS; sensors: {corner => "passive" | "active" |
    # "direction"};
    # circuits: {circuit => adaptation} (connectors, sections, wires, values that differ from the template);
    # tyre: "205/55R16"; teeth: of the tone ring; both optional.
    class Sheet
      attr_reader :name, :vin, :answers, :sensors, :circuits, :modules, :tyre, :teeth

      # attributes: a Hash with String keys, as in a case file. Raises InputError that names the field.
      def initialize(attributes)
        @attributes = attributes
        @name = attributes["name"].to_s.strip
        @vin = attributes["vin"]
        @answers = FIELDS.to_h { |field, allowed| [field, one_of(field, allowed)] }
        assume("system_voltage", "24") if @answers["booster"] == "air"
        assume("unit_place", "under_inverter") if pressure_unit_of_a_hybrid?
        @answers.freeze
        @sensors = sensors_from(attributes["sensors"] || "active").freeze
        @circuits = circuits_from(attributes["circuits"] || {})
        @modules = attributes["modules"] || []
        @tyre = text_or_nil(attributes["tyre"])
        Quantity::WheelGeometry.outside_diameter_mm(@tyre) if @tyre
        @teeth = teeth_from(attributes["teeth"])
        circuit_ids
        freeze
      end

      %w[layout power booster park_brake driver_side unit system_voltage].each do |field|
        define_method(field) { answers.fetch(field) }
      end

      # Ids of the corners that it has.
      def corners
        LAYOUTS.fetch(layout)
      end

      # Does it have these answers? wanted: {field => Array of answers}, or nil for any vehicle.
      def fits?(wanted)
        (wanted || {}).all? { |field, values| values.include?(answers.fetch(field)) }
      end

      # Records of data/vehicle/circuits that the answers ask for, beside the corners, each with its template filled in.
      def fitted(catalogue = Knowledge.catalogue)
        asked = catalogue.fitted.values.select { |row| fits?(row["when"]) }
        asked.map do |row|
          row.merge(
            "template" => row["template"].gsub(/\{(\w+)\}/) { answers.fetch(::Regexp.last_match(1)) },
            "module" => module_of(row, catalogue)
          ).compact
        end
      end

      # Records of data/vehicle/builds that the answers ask for and that speak of a circuit. id: of a circuit.
      def builds_of(id, catalogue = Knowledge.catalogue)
        catalogue.builds.values.select do |row|
          row["circuits"].any? { |pattern| File.fnmatch(pattern, id) } && fits?(row["when"])
        end
      end

      # Ids of all circuits of this vehicle.
      def circuit_ids
        @circuit_ids ||= corners + fitted.map { |row| row["id"] }
      end

      # Id of the circuit that carries a module's power, or nil.
      def supply_of(module_id)
        fitted
          .find { |row| row["module"] == module_id && Knowledge.catalogue.circuits.fetch(row["template"])["powers"] }
          &.fetch("id")
      end

      # Who hangs on which bus: {circuit id => [module id, ...]}.
      def bus_members
        fitted
          .to_h do |row|
            [
              row["id"],
              (
                circuits.dig(row["id"], "joints") || Knowledge.catalogue.circuits.fetch(row["template"])["joints"]
              ).filter_map { |connector| connector["module"] }
            ]
          end
          .reject { |_, members| members.empty? }
      end

      # As a Hash with String keys.
      def to_h
        @attributes
      end

      # Pulses a second of a wheel at a speed in km/h; nil where tyre or ring is not known.
      def frequency_hz(speed_km_h)
        return unless tyre && teeth

        Quantity::WheelGeometry.frequency_hz(speed_km_h: speed_km_h, circumference_m: circumference_m, teeth: teeth)
      end

      # Metres of a turn of the wheel; nil where the tyre is not known.
      def circumference_m
        tyre && Quantity::WheelGeometry.circumference_m(tyre)
      end

      private

      # What follows from the other answers, where nothing is said.
      def assume(field, value)
        @answers[field] = value if @attributes[field].nil?
      end

      # On these the unit mostly sits under the inverter; the careful answer until somebody has looked.
      def pressure_unit_of_a_hybrid?
        @answers["power"] != "combustion" && @answers["booster"] == "electric_pump"
      end

      def module_of(row, catalogue)
        builds_of(row["id"], catalogue).filter_map { |build| build["module"] }.last || row["module"]
      end

      def text_or_nil(text)
        text.to_s.strip.empty? ? nil : text.strip
      end

      # Teeth, or pole pairs, in one turn.
      def teeth_from(given)
        return nil if given.nil? || given.to_s.strip.empty?

        count = Integer(given.to_s, 10, exception: false)
        return count if count&.between?(12, 200)

        raise InputError.new(
                field: "vehicle.teeth",
                given: given,
                expected: "a whole number from 12 to 200 teeth or pole pairs"
              )
      end

      def one_of(field, allowed)
        value = @attributes[field] || allowed.first
        value = value ? "yes" : "no" if [true, false].include?(value)
        return value if allowed.include?(value)

        raise InputError.new(field: "vehicle.#{field}", given: value, expected: "one of #{allowed.join(", ")}")
      end

      # "passive" for all, or {"front" => ..., "rear" => ...}, or by corner.
      def sensors_from(given)
        corners.to_h do |corner|
          kind = given.is_a?(Hash) ? (given[corner] || given[corner.split("_").first] || "active") : given
          unless SENSOR_KINDS.include?(kind)
            raise InputError.new(
                    field: "vehicle.sensors.#{corner}",
                    given: kind,
                    expected: "one of #{SENSOR_KINDS.join(", ")}"
                  )
          end
          [corner, kind]
        end
      end

      def circuits_from(given)
        unknown = given.keys - corners - Knowledge.catalogue.fitted.keys
        return given if unknown.empty?

        raise UnknownNameError.new(
                field: "vehicle.circuits",
                given: unknown.first,
                known: corners + Knowledge.catalogue.fitted.keys
              )
      end
    end
  end
end
