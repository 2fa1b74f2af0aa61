# frozen_string_literal: true

module Web
  module Routes
    # One capture: looked at, its columns set right, taken into the evidence.
    module Capture
      def self.registered(app)
        app.get("/jobs/:number/captures/:id") { show_capture(desk.file(params["number"])) }

        app.get("/jobs/:number/captures/:id/trace") do
          bytes = desk.captures.trace(desk.file(params["number"]).job, params["id"]) or
            raise Store::NotFound.new(params["id"], kind: "kept signal")
          content_type "application/octet-stream"
          bytes.to_s
        end

        # Another figure in the model, or a known speed: the panel alone.
        app.get("/jobs/:number/captures/:id/dip") do
          file = desk.file(params["number"])
          page = capture_page(file)
          redirect to("#{page.path}?#{request.query_string}"), 303 unless htmx?
          partial("capture/_dip", file: file, page: page, errors: {})
        rescue Gadwall::InputError => error
          partial(
            "capture/_dip",
            file: file,
            page: capture_page(file, form: Forms::DipForm.new({})),
            errors: {
              "dip" => error.message
            }
          )
        end

        # Columns of live data taken for something else: read anew, and kept for the next log.
        app.post("/jobs/:number/captures/:id/columns") do
          file = desk.file(params["number"])
          page = capture_page(file)
          columns = page.columns_of(params["columns"])
          source = desk.captures.source(file.job, params["id"]) or
            raise Gadwall::InputError.new(
                    field: "columns",
                    given: page.kept.name,
                    expected: "a log that was kept whole. Hand it in again"
                  )
          analysis, trace =
            Gadwall::CaptureFile.view_log(
              source,
              columns: columns,
              circumference_m: file.log.system.sheet.circumference_m
            )
          desk.live_columns.keep(columns, at: desk.now.iso8601)
          desk.captures.revise(file.job, params["id"], analysis: analysis, trace: trace.to_bytes)
          redirect to("/jobs/#{file.job.number}/captures/#{params["id"]}"), 303
        rescue Gadwall::InputError => error
          status 422
          show_capture(file, errors: { "columns" => error.message })
        end

        # One click: what was found becomes evidence, and the suspects move.
        app.post("/jobs/:number/captures/:id/evidence") do
          file = desk.file(params["number"])
          refuse_when_closed(file)
          entries = capture_page(file).entries
          if entries.empty?
            raise Gadwall::InputError.new(
                    field: "capture",
                    given: params["id"],
                    expected: "a capture that says something of a circuit of this vehicle"
                  )
          end

          entries.each_with_index do |entry, i|
            desk.append(file.job, entry, i.zero? ? params : { "form_token" => "#{params["form_token"]}.#{i}" })
          end
          redirect to("/jobs/#{file.job.number}/trace"), 303
        rescue Gadwall::InputError => error
          status 422
          show_capture(desk.file(params["number"]), errors: { "capture" => error.message })
        rescue Store::Conflict => error
          status 409
          show_capture(desk.file(params["number"]), errors: { "conflict" => error.message })
        end

        app.helpers do
          def capture_page(file, form: Forms::DipForm.new(params))
            Pages::CapturePage.new(
              file,
              desk.captures.find(file.job, params["id"]),
              others: desk.captures.for_job(file.job),
              form: form
            )
          end

          def show_capture(file, errors: {})
            page = capture_page(file)
            [page.figures_in_use, page.lost_below, page.speed_km_h]
            erb :"capture/show", locals: { file: file, page: page, errors: errors }
          rescue Gadwall::InputError => error
            status 422
            erb :"capture/show",
                locals: {
                  file: file,
                  page: capture_page(file, form: Forms::DipForm.new({})),
                  errors: errors.merge("dip" => error.message)
                }
          end
        end
      end
    end
  end
end
