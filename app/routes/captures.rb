# frozen_string_literal: true

module Web
  module Routes
    # Captures and live data of a job: handed in, analysed at once or in the background, listed.
    module Captures
      def self.registered(app)
        app.get("/jobs/:number/captures") { show_captures(desk.file(params["number"])) }

        app.post("/jobs/:number/captures") do
          file = desk.file(params["number"])
          form = Forms::CaptureForm.new(params, file.log.system, columns: desk.live_columns.known)
          redirect to("/jobs/#{file.job.number}/captures#{hand_in(file, form)}"), 303
        rescue Gadwall::InputError => error
          status 422
          show_captures(file, errors: { (error.field == "file" ? "file" : "capture") => error.message })
        end

        # Run and rest of a pump from the technician's stop-watch, kept like a capture.
        app.post("/jobs/:number/captures/stop-watch") do
          file = desk.file(params["number"])
          cycle = Gadwall::Signals::PumpCycle.new(run_s: seconds("run"), rest_s: seconds("rest"))
          circuit = file.log.system.circuits.map(&:id).find { |id| id == params["circuit"] }
          id =
            desk.captures.keep(
              file.job,
              name: "Stop-watch",
              circuit: circuit,
              analysis: cycle.to_h,
              at: desk.now.iso8601,
              token: params["form_token"]
            )
          redirect to("/jobs/#{file.job.number}/captures/#{id}"), 303
        rescue Gadwall::InputError => error
          status 422
          show_captures(file, errors: { "stop-watch" => error.message })
        end

        # How far an analysis is; where it is done, on to what it found.
        app.get("/jobs/:number/captures/works/:id") do
          file = desk.file(params["number"])
          work = desk.works.find(file.job, params["id"])
          follow_on(file, work.capture_id) if %w[done cancelled].include?(work.state)
          if htmx?
            partial("captures/_work", file: file, work: work)
          else
            redirect(to("/jobs/#{file.job.number}/captures"), 303)
          end
        rescue Store::NotFound
          follow_on(file || raise, nil) # begun before the server was started anew: the list says what there is
        end

        app.post("/jobs/:number/captures/works/:id/cancel") do
          file = desk.file(params["number"])
          desk.works.cancel(desk.works.find(file.job, params["id"]))
          redirect to("/jobs/#{file.job.number}/captures"), 303
        end

        app.helpers do
          # Returns where to look next: the end of an address.
          def hand_in(file, form)
            token = params["form_token"].to_s[/\A\h{16,64}\z/] || SecureRandom.hex(16)
            form.options
            if form.slow?
              return desk.works.start(file.job, form, token: token, at: desk.now.iso8601).then { "#work-#{token}" }
            end

            analysis, trace = form.view
            "/#{
              desk.captures.keep(
                file.job,
                name: form.name,
                circuit: form.circuit_id,
                analysis: analysis,
                at: desk.now.iso8601,
                token: token,
                trace: trace.to_bytes,
                source: form.source
              )
            }"
          end

          def follow_on(file, capture_id)
            onward = "/jobs/#{file.job.number}/captures#{"/#{capture_id}" if capture_id}"
            redirect to(onward), 303 unless htmx?

            headers "HX-Redirect" => onward
            halt 200, ""
          end

          def seconds(field)
            Float(params[field].to_s.strip.tr(",", "."), exception: false) || params[field]
          end

          def show_captures(file, errors: {})
            pages = desk.captures.for_job(file.job).map { |kept| Pages::CapturePage.new(file, kept) }
            erb :"captures/index",
                locals: {
                  file: file,
                  pages: pages,
                  works: desk.works.for_job(file.job),
                  errors: errors,
                  limits: capture_limits
                }
          end

          # Where a finding begins, as the data has it.
          def capture_limits
            signal = Gadwall::Knowledge.catalogue.signal
            "A gap counts from #{signal["wide_gap_from"]["value"]} normal periods, a low tooth below " \
              "#{signal["damaged_below"]["value"]} of its neighbours, runout from a depth of " \
              "#{signal["runout_from"]["value"]}."
          end
        end
      end
    end
  end
end
