# frozen_string_literal: true

module Gadwall
  module Vehicle
    # The vehicle's circuits with every fault and every test they can have. Built from the sheet; asked by the
    # diagnosis. Full names are "circuit.relative": front_left.sensor.open, front_left.resistance.module_plug.
    class System
      # id: "front_left"; title: "front left"; model: Tests::CircuitModel, shared by circuits that are wired alike;
      # module: id of who reads it, nil for a bus; at: where it is drawn; corner: of the wheel at which its
      # harness hangs, or nil.
      Circuit =
        Struct.new(:id, :title, :model, :module, :at, :corner, keyword_init: true) do
          # Full names of its places: Array of "circuit/place", in the order of the model's.
          attr_reader :place_names

          def initialize(id:, model:, **)
            super
            @place_names = model.places.map { |place| "#{id}/#{place}".freeze }.freeze
          end

          # Its Circuits::Harness.
          def harness
            model.harness
          end

          # Which tests, gates and repairs speak of it.
          def family
            harness.template["family"]
          end

          # Is it the circuit of a wheel speed sensor?
          def wheel?
            family == "wheel_speed"
          end

          # Does it carry the power of its module?
          def powers?
            !harness.template["powers"].nil?
          end
        end

      attr_reader :sheet, :circuits, :catalogue

      # sheet: Sheet; models: ModelCache that the caller keeps, so that vehicles wired alike share what was computed.
      # Raises InputError where the sheet's circuits do not fit.
      def self.build(sheet, catalogue = Knowledge.catalogue, models: ModelCache.new)
        new(sheet, catalogue, models)
      end

      # This vehicle with only some circuits looked at. ids: Strings.
      def narrowed_to(*ids)
        dup.tap { |copy| copy.send(:keep, circuits.select { |circuit| ids.include?(circuit.id) }) }
      end

      def initialize(sheet, catalogue, models)
        @sheet = sheet
        @catalogue = catalogue
        @models = models
        keep(wheels + fitted)
      end

      # Causes that reach several circuits at once: one connector, one board.
      attr_reader :shared

      # What its circuits pass, shared or not: [[Body, Circuit], ...].
      attr_reader :bodies

      # {"circuit/place" => what it is part of}: the place of a cause that reaches several circuits there, or the first
      # place of one part.
      attr_reader :body_places

      # The circuit that carries a module's power, or nil.
      def supply_of(module_id)
        circuits.find { |circuit| circuit.module == module_id && circuit.powers? }
      end

      # Circuits on whose bus a module hangs.
      def buses_of(module_id)
        circuits.select { |circuit| circuit.harness.modules.any? { |id, _| id == module_id } }
      end

      # id: text. Returns a Circuit. Raises UnknownNameError.
      def circuit_named(id)
        circuits.find { |circuit| circuit.id == id } or
          raise UnknownNameError.new(field: "circuit", given: id, known: circuits.map(&:id))
      end

      # full id => [Circuit, Tests::Test]. Raises UnknownNameError that suggests the nearest.
      def test(full_id)
        circuit_id, relative = full_id.to_s.split(".", 2)
        circuit = circuits.find { |each| each.id == circuit_id }
        test = circuit.model.test(relative) if circuit
        return circuit, test if test

        raise UnknownNameError.new(field: "test", given: full_id, known: test_ids)
      end

      # full id => [Circuit, Circuits::Fault].
      def fault(full_id)
        circuit_id, relative = full_id.to_s.split(".", 2)
        circuit = circuits.find { |each| each.id == circuit_id }
        fault = circuit&.model&.fault(relative)
        return circuit, fault if fault

        raise UnknownNameError.new(field: "fault", given: full_id, known: fault_ids)
      end

      # ["front_left.resistance.sensor_plug", ...].
      def test_ids
        circuits.flat_map { |circuit| circuit.model.tests.keys.map { |id| "#{circuit.id}.#{id}" } }
      end

      # ["front_left.sensor.open", ...].
      def fault_ids
        circuits.flat_map { |circuit| circuit.model.faults.map { |fault| "#{circuit.id}.#{fault.id}" } }
      end

      # Short: an error message must not print all its circuits.
      def inspect
        "#<#{self.class} #{sheet.name}>"
      end

      private

      def keep(circuits)
        @circuits = circuits.freeze
        @bodies = circuits.flat_map { |circuit| Body.of(circuit).map { |body| [body, circuit] } }.freeze
        @shared = SharedCause.all(self).freeze
        @body_places =
          @shared.flat_map { |cause| cause.places.map { |place| [place, cause.place] } }.to_h.merge(one_part).freeze
      end

      # {"circuit/place" => "circuit/first place"} of what is one part in this vehicle (data/vehicle/one_parts.yml).
      def one_part
        rows = @catalogue.one_parts.select { |row| sheet.fits?(row["when"]) }
        rows
          .flat_map do |row|
            @circuits
              .select { |circuit| File.fnmatch(row["circuits"], circuit.id) }
              .flat_map do |circuit|
                row["places"].map { |place| ["#{circuit.id}/#{place}", "#{circuit.id}/#{row["places"].first}"] }
              end
          end
          .to_h
      end

      def wheels
        sheet.corners.map do |corner|
          circuit(
            corner,
            CORNERS.fetch(corner),
            "wheel_speed_#{sheet.sensors.fetch(corner)}",
            module_id: "abs",
            at: nil,
            corner: corner
          )
        end
      end

      # The circuits that the sheet's answers ask for.
      def fitted
        sheet
          .fitted(catalogue)
          .map do |row|
            circuit(
              row["id"],
              row["title"],
              row["template"],
              module_id: row["module"],
              at: row["at"],
              corner: row["corner"]
            )
          end
      end

      # How a circuit differs from its template: as the sheet says in so many words, or as its answers ask for.
      def adaptation(id, template_id)
        said = sheet.circuits[id] || {}
        said = said.merge("system_voltage" => "24") if sheet.system_voltage == "24" && !said.key?("system_voltage")
        left_out = sheet.builds_of(id, catalogue).flat_map { |row| row["without"] || [] }
        return said if left_out.empty? || said.key?("joints")

        template = catalogue.circuits.fetch(template_id)
        kept = template["joints"].each_index.reject { |i| left_out.include?(template["joints"][i]["id"]) }
        sections = template["sections"].each_index.select { |i| kept.include?(i) && kept.include?(i + 1) }
        said.merge(
          "joints" => template["joints"].values_at(*kept),
          "sections" => template["sections"].values_at(*sections)
        )
      end

      def circuit(id, title, template_id, module_id:, at:, corner:)
        model = @models.model(template_id, adaptation(id, template_id), catalogue)
        Circuit.new(id: id, title: title, model: model, module: module_id, at: at, corner: corner).freeze
      end
    end
  end
end
