# frozen_string_literal: true

module Web
  module Pages
    # The vehicle sheet: questions with their answers, the circuits that follow, and the one that is being refined.
    class VehiclePage
      # A part of the circuit in the order of the hand: kind "connector" or "section", its number among its kind, its
      # fields.
      Row = Struct.new(:kind, :index, :fields, keyword_init: true)

      attr_reader :file, :errors, :form, :notice, :circuit

      # file: Desk::File; circuit_id: chosen, or nil; form: a CircuitForm with what was typed, or nil; errors: by field.
      def initialize(file, circuit_id: nil, form: nil, errors: {}, notice: nil)
        @file = file
        @errors = errors
        @notice = notice
        @circuit = system.circuits.find { |each| each.id == circuit_id } || system.circuits.first
        @form = form || Forms::CircuitForm.of(circuit.harness, adaptation)
      end

      def system
        file.log.system
      end

      def base
        "/jobs/#{file.job.number}/vehicle"
      end

      def questions
        Gadwall::Knowledge.catalogue.questions.values
      end

      def answer(id)
        system.sheet.answers.fetch(id)
      end

      # "active", or "front passive, rear active" as the two selects hold it.
      def sensors(ends)
        corner = system.sheet.corners.find { |each| each.start_with?(ends) }
        system.sheet.sensors.fetch(corner)
      end

      def adaptation
        system.sheet.circuits[circuit.id] || {}
      end

      def adapted?(id)
        system.sheet.circuits.key?(id)
      end

      # Can this circuit be refined? Not where nothing but pressure runs.
      def wired?
        circuit.harness.connectors.any?
      end

      def rows
        form.connectors.each_with_index.flat_map do |connector, i|
          section = form.sections[i]
          [
            Row.new(kind: "connector", index: i, fields: connector),
            (Row.new(kind: "section", index: i, fields: section) if section && i < form.connectors.size - 1)
          ].compact
        end
      end

      # The circuit on the other side that is wired alike, or nil.
      def twin
        id = circuit.id.include?("left") ? circuit.id.sub("left", "right") : circuit.id.sub("right", "left")
        system.circuits.find { |each| each.id == id && id != circuit.id && each.harness.id == circuit.harness.id }
      end

      # [[name, unit, usual value, source], ...] of the figures that a maker may give.
      def figures
        circuit.harness.template["values"].map { |name, value| [name, value["unit"], value["value"], value["source"]] }
      end

      def wires
        circuit.harness.wires
      end
    end
  end
end
