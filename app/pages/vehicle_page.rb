# frozen_string_literal: true

module Web
  module Pages
    # The vehicle sheet: questions with their answers, the circuits that follow, and the one that is being refined.
    class VehiclePage < Page
      # A part of the circuit from module to sensor: kind "joint" or "section" (as the sheet names them), its number
      # among its kind, its fields.
      Row =
        Struct.new(:kind, :index, :fields, keyword_init: true) do
          def connector?
            kind == "joint"
          end

          # The start of its fields' names: "joints[2]".
          def prefix
            "#{kind}s[#{index}]"
          end

          def ticked?(name)
            [true, "1"].include?(fields[name])
          end

          def wheel_off?
            %w[1 wheel_off].include?(fields["needs"])
          end

          # What else has to come off: in words, or nil.
          def other_need
            %w[relay_out board_off].include?(fields["needs"]) ? fields["needs"] : nil
          end
        end
      # A figure of the manufacturer: name of its field, label, unit, usual value, source, what was typed.
      Figure = Struct.new(:name, :label, :unit, :usual, :source, :value, :tolerance, keyword_init: true)
      Choice = IntakePage::Choice

      attr_reader :form, :notice, :circuit, :drawing

      # circuit_id: chosen, or nil; form: a CircuitForm with what was typed, or nil; drawing: a HarnessDrawing of it;
      # known: {source => name} of sheets to copy.
      def initialize(dossier, circuit_id: nil, form: nil, errors: {}, notice: nil, known: {})
        super(dossier, errors: errors)
        @notice = notice
        @known = known
        @circuit = system.circuits.find { |each| each.id == circuit_id } || system.circuits.first
        @form = form || Forms::CircuitForm.of(circuit.harness, adaptation)
        @drawing = HarnessDrawing.new(circuit, @form, catalogue)
      end

      def title
        "#{number} · Vehicle sheet"
      end

      def system
        dossier.system
      end

      # Where the sheet's forms go.
      def path
        "#{base}/vehicle"
      end

      def counts
        "#{system.circuits.size} circuits, #{system.fault_ids.size} possible faults, #{system.test_ids.size} tests"
      end

      def back
        "#{base}/#{dossier.head.stage}"
      end

      # May circuits be changed, or only what names the vehicle?
      def open?
        !dossier.decided? && !dossier.handed_over?
      end

      def questions
        sensors = Forms::IntakeForm::SENSORS
        ends = { "front" => "Front sensors", "rear" => "Rear sensors" }
        asked = catalogue.questions.values
        ends.map { |id, label| Choice.new(name: id, label: label, value: sensor(id), choices: sensors) } +
          asked.map do |row|
            Choice.new(name: row["id"], label: row["text"], value: answer(row["id"]), choices: row["answers"])
          end
      end

      def tyre
        dossier.sheet.tyre
      end

      def teeth
        dossier.sheet.teeth
      end

      def circuits
        system.circuits
      end

      def adapted?(id)
        dossier.sheet.circuits.key?(id)
      end

      # Can this circuit be refined? Not where nothing but pressure runs.
      def wired?
        circuit.harness.connectors.any?
      end

      def rows
        form.connectors.each_with_index.flat_map do |connector, i|
          section = i < form.connectors.size - 1 && form.sections[i]
          [
            Row.new(kind: "joint", index: i, fields: connector),
            (Row.new(kind: "section", index: i, fields: section) if section)
          ].compact
        end
      end

      # The circuit on the other side that is wired alike, or nil.
      def other_side
        id = circuit.id.include?("left") ? circuit.id.sub("left", "right") : circuit.id.sub("right", "left")
        system.circuits.find { |each| each.id == id && id != circuit.id && each.harness.id == circuit.harness.id }
      end

      # Figures that a vehicle manufacturer may give: Array of Figure.
      def figures
        circuit.harness.template["values"].map do |name, value|
          Figure.new(
            name: name,
            label: value["label"] || name.tr("_", " "),
            unit: value["unit"],
            usual: value["value"],
            source: value["source"],
            value: form.values.dig(name, "value"),
            tolerance: form.values.dig(name, "tolerance")
          )
        end
      end

      # Is something typed or wrong among the figures, so that they are shown unfolded?
      def figures_open?
        form.values.any? || form.errors.keys.any? { |key| key.start_with?("values") }
      end

      def wires
        circuit.harness.wires
      end

      # [[value, name], ...] of sheets that can be copied.
      def sources
        @known.to_a
      end

      private

      def answer(id)
        dossier.sheet.answers.fetch(id)
      end

      # "active", or "front passive, rear active" as the two selects hold it.
      def sensor(name)
        corner = dossier.sheet.corners.find { |each| each.start_with?(name) }
        dossier.sheet.sensors.fetch(corner)
      end

      def adaptation
        dossier.sheet.circuits[circuit.id] || {}
      end
    end
  end
end
