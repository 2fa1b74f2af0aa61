# frozen_string_literal: true

module Gadwall
  module Vehicle
    # The vehicle's circuits with every fault and every test they can have. Built from the sheet; asked by the diagnosis.
    # Full names are "circuit.relative": front_left.sensor.open, front_left.resistance.module_plug.
    class System
      # id: "front_left"; title: "front left"; model: Testing::LineModel, shared by circuits that are wired alike.
      Circuit = Struct.new(:id, :title, :model, keyword_init: true) do
        def line
          model.line
        end

        def wheel?
          line.template["family"] == "wheel_speed"
        end
      end

      attr_reader :sheet, :circuits, :catalogue

      # sheet: Sheet; models: a Hash that the caller keeps, so that vehicles wired alike share what was computed.
      # Raises InputError where the sheet's circuits do not fit.
      def self.build(sheet, catalogue = Knowledge.catalogue, models: {})
        new(sheet, catalogue, models)
      end

      # This vehicle with only some circuits looked at. ids: Strings.
      def narrowed_to(*ids)
        dup.tap { |copy| copy.instance_variable_set(:@circuits, circuits.select { |circuit| ids.include?(circuit.id) }.freeze) }
      end

      def initialize(sheet, catalogue, models)
        @sheet = sheet
        @catalogue = catalogue
        @models = models
        wheels = sheet.corners.map { |corner| circuit(corner, CORNERS.fetch(corner), "wheel_speed_#{sheet.sensors.fetch(corner)}") }
        @circuits = (wheels << circuit(MODULE, "anti-lock module", "module_supply")).freeze
      end

      def circuit_named(id)
        circuits.find { |circuit| circuit.id == id } or
          raise UnknownNameError.new(field: "circuit", given: id, known: circuits.map(&:id))
      end

      # full id => [Circuit, Testing::Test]. Raises UnknownNameError that suggests the nearest.
      def test(full_id)
        circuit_id, relative = full_id.to_s.split(".", 2)
        circuit = circuits.find { |each| each.id == circuit_id }
        test = circuit&.model&.tests&.fetch(relative, nil)
        return [circuit, test] if test

        raise UnknownNameError.new(field: "test", given: full_id, known: test_ids)
      end

      # full id => [Circuit, Circuits::Fault].
      def fault(full_id)
        circuit_id, relative = full_id.to_s.split(".", 2)
        circuit = circuits.find { |each| each.id == circuit_id }
        fault = circuit&.model&.fault(relative)
        return [circuit, fault] if fault

        raise UnknownNameError.new(field: "fault", given: full_id, known: fault_ids)
      end

      def test_ids
        circuits.flat_map { |circuit| circuit.model.tests.keys.map { |id| "#{circuit.id}.#{id}" } }
      end

      def fault_ids
        circuits.flat_map { |circuit| circuit.model.faults.map { |fault| "#{circuit.id}.#{fault.id}" } }
      end

      private

      def circuit(id, title, template_id)
        adaptation = sheet.circuits[id] || {}
        model = @models[[template_id, adaptation]] ||=
          Testing::LineModel.new(Circuits::Line.new(catalogue.circuits.fetch(template_id), adaptation, catalogue), catalogue)
        Circuit.new(id: id, title: title, model: model).freeze
      end
    end
  end
end
