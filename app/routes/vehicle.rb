# frozen_string_literal: true

module Web
  module Routes
    # The vehicle sheet: plain questions, then each circuit by hand; saved, copied, shared.
    module Vehicle
      KEPT_OF_JOB = Store::TemplateStore::OF_ONE_VEHICLE
      MOST_FILE_BYTES = Gadwall::VehicleFile::MOST_BYTES

      def self.registered(app)
        app.get("/jobs/:number/vehicle") { show_vehicle(circuit_id: input.text_or_nil("circuit")) }

        app.post("/jobs/:number/vehicle") do
          change_sheet(dossier.record.vehicle.merge(Forms::AnswersForm.new(input).vehicle))
        end

        app.post("/jobs/:number/vehicle/circuits/:circuit") do
          circuit = dossier.system.circuit_named(params["circuit"])
          form = circuit_form(circuit)
          if input.text("op").match?(Forms::CircuitForm::OPERATIONS)
            next show_vehicle(circuit_id: circuit.id, form: form)
          end

          sheet = input.text("op") == "reset" ? without(circuit) : with_circuit(circuit, form)
          next refuse_circuit(circuit, form) if form.errors.any?

          change_sheet(sheet, circuit: circuit, form: form)
        end

        app.post("/jobs/:number/vehicle/circuits/:circuit/draw") do
          circuit = dossier.system.circuit_named(params["circuit"])
          partial(
            "vehicle/_drawn",
            drawing: Pages::HarnessDrawing.new(circuit, circuit_form(circuit), dossier.catalogue)
          )
        end

        app.post("/jobs/:number/vehicle/template") do
          saved = workshop.templates.save(input.text("name"), dossier.record.vehicle, at: now.iso8601)
          show_vehicle(notice: "Saved as template '#{saved.name}'.")
        rescue Gadwall::InputError => error
          status 422
          show_vehicle(errors: { "template" => error.message })
        end

        app.post("/jobs/:number/vehicle/copy") do
          change_sheet(source_sheet.merge(dossier.record.vehicle.slice(*KEPT_OF_JOB)), field: "copy")
        end

        app.post("/jobs/:number/vehicle/open") do
          change_sheet(opened_sheet.merge(dossier.record.vehicle.slice(*KEPT_OF_JOB)), field: "open")
        rescue Gadwall::InputError => error
          status 422
          show_vehicle(errors: { "open" => error.message })
        end

        app.get("/jobs/:number/vehicle.json") do
          content_type :json
          attachment "#{dossier.number}-vehicle.json"
          Gadwall::VehicleFile.dump(dossier.record.vehicle.except("vin", "plate"))
        end

        app.helpers(Sheets)
      end

      # From what was typed to a sheet that can be built.
      module Sheets
        SHOWN_JOBS = 40

        def show_vehicle(**more)
          show(Pages::VehiclePage.new(dossier, known: known_sheets, **more))
        end

        def refuse_circuit(circuit, form)
          status 422
          show_vehicle(circuit_id: circuit.id, form: form)
        end

        # Changes the sheet and goes on, or shows what does not fit.
        def change_sheet(sheet, circuit: nil, form: nil, field: "sheet")
          values = { vehicle: sheet, system: workshop.loader.system(sheet) }
          back = input.text("back") == "trace" ? "trace" : "vehicle#{"?circuit=#{circuit.id}" if circuit}"
          done = perform(Gadwall::Job::Acts::EditSheet, values) { |job| "/jobs/#{job.number}/#{back}" }
          finish(done) do
            errors = done.errors.transform_keys { |key| key == "sheet" ? field : key }
            show_vehicle(circuit_id: circuit&.id, form: form, errors: errors)
          end
        rescue Gadwall::InputError => error
          status 422
          show_vehicle(circuit_id: circuit&.id, form: form, errors: { field => error.message })
        end

        def circuit_form(circuit)
          Forms::CircuitForm.new(circuit.harness.template, params).tap { |form| form.apply(input.text("op")) }
        end

        # The sheet with this circuit as typed, and the other side's like it where that was asked for.
        def with_circuit(circuit, form)
          made = form.adaptation
          other = input.text("twin") == "1" && Pages::VehiclePage.new(dossier, circuit_id: circuit.id).other_side
          sheet_with({ circuit.id => made, (other.id if other) => made }.compact.reject { |id, _| id.nil? })
        end

        def sheet_with(circuits)
          vehicle = dossier.record.vehicle
          vehicle.merge("circuits" => (vehicle["circuits"] || {}).merge(circuits))
        end

        def without(circuit)
          vehicle = dossier.record.vehicle
          vehicle.merge("circuits" => (vehicle["circuits"] || {}).except(circuit.id))
        end

        # Sheets that can be copied: the workshop's templates, and the vehicles in the workshop.
        def known_sheets
          templates = workshop.templates.all.to_h { |each| ["template:#{each.id}", each.name] }
          jobs = workshop.summaries.open(limit: SHOWN_JOBS).reject { |each| each.number == dossier.number }
          templates.merge(jobs.to_h { |each| ["job:#{each.number}", "#{each.number} #{each.name}"] })
        end

        def source_sheet
          kind, id = input.text("source").split(":", 2)
          kind == "template" ? workshop.templates.find(id).vehicle : workshop.jobs.find(id.to_s).vehicle
        end

        def opened_sheet
          upload = input.upload("file")
          text = upload ? upload["tempfile"].read(MOST_FILE_BYTES + 1).to_s : input.raw("text")
          Gadwall::VehicleFile.parse(text.dup.force_encoding("UTF-8").scrub.delete_prefix("\uFEFF"))
        end
      end
    end
  end
end
