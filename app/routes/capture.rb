# frozen_string_literal: true

module Web
  module Routes
    # One capture: looked at, its columns corrected, taken into the evidence.
    module Capture
      def self.registered(app)
        app.get("/jobs/:number/captures/:id") { show_capture(form: Forms::DipForm.new(input)) }

        app.get("/jobs/:number/captures/:id/trace") do
          bytes = workshop.captures.waveform(dossier.record, params["id"]) or
            raise Store::NotFound.new(params["id"], kind: "stored waveform")
          content_type "application/octet-stream"
          bytes.to_s
        end

        # Another figure in the model, or a known speed: the panel alone.
        app.get("/jobs/:number/captures/:id/dip") do
          page = capture_page(form: Forms::DipForm.new(input))
          redirect "#{page.path}?#{request.query_string}", 303 unless htmx?
          partial("capture/_dip", page: page)
        rescue Gadwall::InputError => error
          partial("capture/_dip", page: capture_page(errors: { "dip" => error.message }))
        end

        # Columns of live data taken for something else: read again, and saved for the next log.
        app.post("/jobs/:number/captures/:id/columns") do
          chosen = input.fields("columns")
          read_again(Forms::ColumnsForm.new(chosen, capture_page.columns).mapping)
          redirect "/jobs/#{dossier.number}/captures/#{params["id"]}", 303
        rescue Gadwall::InputError => error
          status 422
          show_capture(errors: { "columns" => error.message }, typed: { "columns" => chosen })
        end

        # One click: what was found becomes evidence, and the suspects move.
        app.post("/jobs/:number/captures/:id/evidence") do
          page = capture_page
          values = { rows: page.entries, capture: page.stored.id }
          done = perform(Gadwall::Job::Acts::TakeFindings, values) { |job| "/jobs/#{job.number}/trace" }
          finish(done) { show_capture(errors: done.errors) }
        end

        app.helpers(Looking)
      end

      # One capture as a page.
      module Looking
        def capture_page(**more)
          stored = workshop.captures.find(dossier.record, params["id"])
          Pages::CapturePage.new(dossier, stored, others: workshop.captures.for_job(dossier.record), **more)
        end

        # A figure that cannot be used is told at the model, and the usual ones are shown.
        def show_capture(errors: {}, **more)
          page = capture_page(errors: errors, **more)
          [page.figures_in_use, page.lost_below, page.speed_km_h]
          show(page)
        rescue Gadwall::InputError => error
          status 422
          show(capture_page(errors: errors.merge("dip" => error.message)))
        end

        def read_again(columns)
          source = workshop.captures.source(dossier.record, params["id"])
          unless source
            raise Gadwall::InputError.new(
                    field: "columns",
                    given: params["id"],
                    expected: "a log that was stored whole",
                    fix: "Hand it in again."
                  )
          end
          circumference = dossier.sheet.circumference_m
          analysis, waveform =
            Gadwall::Signals::CaptureFile.view_log(source, columns: columns, circumference_m: circumference)
          workshop.together do
            workshop.live_columns.save(columns, at: now.iso8601)
            workshop.captures.revise(dossier.record, params["id"], analysis: analysis, waveform: waveform.to_bytes)
          end
        end
      end
    end
  end
end
