# frozen_string_literal: true

module Web
  module Routes
    # The vehicle sheet: plain questions, then each circuit by hand; kept, copied, shared.
    module Vehicle
      KEPT_OF_JOB = %w[name vin].freeze

      def self.registered(app)
        app.get("/jobs/:number/vehicle") do
          show_vehicle(Pages::VehiclePage.new(desk.file(params["number"]), circuit_id: params["circuit"]))
        end

        app.post("/jobs/:number/vehicle") do
          file = desk.file(params["number"])
          refined(file, file.job.vehicle.merge(Forms::AnswersForm.new(params).vehicle)) do
            redirect to("/jobs/#{file.job.number}/vehicle"), 303
          end
        end

        app.post("/jobs/:number/vehicle/circuits/:circuit") do
          file = desk.file(params["number"])
          page = circuit_page(file)
          next show_vehicle(page) if params["op"].to_s.match?(Forms::CircuitForm::OPERATIONS)

          sheet = params["op"] == "reset" ? without(file, page.circuit) : with_circuit(file, page)
          next again_vehicle(page) if page.form.errors.any?

          refined(file, sheet, page: page) do
            redirect to("/jobs/#{file.job.number}/vehicle?circuit=#{page.circuit.id}"), 303
          end
        end

        app.post("/jobs/:number/vehicle/circuits/:circuit/draw") do
          partial("vehicle/_drawn", drawing: drawing(circuit_page(desk.file(params["number"]))))
        end

        app.post("/jobs/:number/vehicle/template") do
          file = desk.file(params["number"])
          kept = desk.templates.keep(params["name"], file.job.vehicle, at: desk.now.iso8601)
          show_vehicle(Pages::VehiclePage.new(file, notice: "Kept for the next such vehicle as '#{kept.name}'."))
        rescue Gadwall::InputError => error
          status 422
          show_vehicle(Pages::VehiclePage.new(file, errors: { "template" => error.message }))
        end

        app.post("/jobs/:number/vehicle/copy") do
          file = desk.file(params["number"])
          refined(file, source_sheet.merge(file.job.vehicle.slice(*KEPT_OF_JOB)), field: "copy") do
            redirect to("/jobs/#{file.job.number}/vehicle"), 303
          end
        end

        app.post("/jobs/:number/vehicle/open") do
          file = desk.file(params["number"])
          refined(file, opened_sheet.merge(file.job.vehicle.slice(*KEPT_OF_JOB)), field: "open") do
            redirect to("/jobs/#{file.job.number}/vehicle"), 303
          end
        rescue Gadwall::InputError => error
          status 422
          show_vehicle(Pages::VehiclePage.new(file, errors: { "open" => error.message }))
        end

        app.get("/jobs/:number/vehicle.json") do
          file = desk.file(params["number"])
          content_type :json
          attachment "#{file.job.number}-vehicle.json"
          Gadwall::VehicleFile.dump(file.job.vehicle.except("vin"))
        end

        app.helpers(Sheets)
      end

      # From what was typed to a sheet that can be built.
      module Sheets
        def show_vehicle(page)
          erb :"vehicle/show", locals: { page: page, file: page.file }
        end

        def again_vehicle(page)
          status 422
          show_vehicle(page)
        end

        # Writes the sheet and goes on, or shows what does not fit.
        def refined(file, sheet, page: nil, field: "sheet")
          desk.refine(file.job, sheet)
          yield
        rescue Gadwall::InputError => error
          status 422
          show_vehicle(
            Pages::VehiclePage.new(
              file,
              circuit_id: page&.circuit&.id,
              form: page&.form,
              errors: {
                field => error.message
              }
            )
          )
        end

        def circuit_page(file)
          circuit = file.log.system.circuit_named(params["circuit"])
          form = Forms::CircuitForm.new(circuit.harness.template, params)
          form.apply(params["op"])
          Pages::VehiclePage.new(file, circuit_id: circuit.id, form: form)
        end

        def with_circuit(file, page)
          made = page.form.adaptation
          twins = params["twin"] && page.twin ? { page.twin.id => made } : {}
          file.job.vehicle.merge(
            "circuits" => (file.job.vehicle["circuits"] || {}).merge(page.circuit.id => made).merge(twins)
          )
        end

        def without(file, circuit)
          file.job.vehicle.merge("circuits" => (file.job.vehicle["circuits"] || {}).except(circuit.id))
        end

        # The line as typed, drawn; or the first thing wrong with it.
        def drawing(page)
          made = page.form.adaptation
          return { error: page.form.errors.values.first } if page.form.errors.any?

          line = Gadwall::Circuits::Harness.new(page.circuit.harness.template, made, page.system.catalogue)
          { figure: Svg::HarnessFigure.new(line, title: page.circuit.title, place_states: {}).to_s }
        rescue Gadwall::InputError => error
          { error: error.message }
        end

        def source_sheet
          kind, id = params["source"].to_s.split(":", 2)
          (kind == "template" ? desk.templates.find(id) : desk.jobs.find(id)).vehicle
        end

        def opened_sheet
          upload = params["file"]
          text = upload.is_a?(Hash) ? upload["tempfile"].read : params["text"].to_s
          Gadwall::VehicleFile.parse(text.dup.force_encoding("UTF-8").scrub.delete_prefix("\uFEFF"))
        end
      end
    end
  end
end
