# frozen_string_literal: true

module Web
  module Routes
    # Captures and live data: taken in, analysed, shown, and taken into the evidence.
    module Captures
      def self.registered(app)
        app.get("/jobs/:number/captures") { show_captures(desk.file(params["number"])) }

        app.post("/jobs/:number/captures") do
          file = desk.file(params["number"])
          form = Forms::CaptureForm.new(params, file.log.system)
          desk.captures.keep(file.job, name: form.name, circuit: form.circuit_id, analysis: form.analysis, at: desk.now.iso8601, token: params["form_token"])
          redirect to("/jobs/#{file.job.number}/captures"), 303
        rescue Gadwall::InputError => error
          status 422
          show_captures(file, errors: { "capture" => error.message })
        end

        # One click: what was found becomes evidence, and the suspects move.
        app.post("/jobs/:number/captures/:id/evidence") do
          file = desk.file(params["number"])
          refuse_when_closed(file)
          entries = Pages::CapturePage.new(file, desk.captures.find(file.job, params["id"])).entries
          raise Gadwall::InputError.new(field: "capture", given: params["id"], expected: "a capture that says something of a circuit of this vehicle") if entries.empty?

          entries.each_with_index { |entry, i| desk.append(file.job, entry, i.zero? ? params : { "form_token" => "#{params['form_token']}.#{i}" }) }
          redirect to("/jobs/#{file.job.number}/trace"), 303
        rescue Gadwall::InputError => error
          status 422
          show_captures(desk.file(params["number"]), errors: { "capture" => error.message })
        rescue Store::Conflict => error
          status 409
          show_captures(desk.file(params["number"]), errors: { "conflict" => error.message })
        end

        app.helpers do
          def show_captures(file, errors: {})
            pages = desk.captures.for_job(file.job).map { |kept| Pages::CapturePage.new(file, kept) }
            erb :"captures/index", locals: { file: file, pages: pages, errors: errors, circuit_id: params["circuit"], limits: capture_limits }
          end

          # Where a finding begins, as the data has it.
          def capture_limits
            signal = Gadwall::Knowledge.catalogue.signal
            "A gap counts from #{signal['wide_gap_from']['value']} normal periods, a low tooth below #{signal['damaged_below']['value']} of its neighbours, runout from a depth of #{signal['runout_from']['value']}."
          end
        end
      end
    end
  end
end
