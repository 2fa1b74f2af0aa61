# frozen_string_literal: true

module Web
  module Routes
    # Captures and live data of a job: handed in, analysed at once or in the background, listed.
    module Captures
      def self.registered(app)
        app.get("/jobs/:number/captures") { show_captures(typed: { "circuit" => input.text("circuit") }) }

        app.post("/jobs/:number/captures") do
          form = Forms::CaptureForm.new(input, dossier.system, columns: workshop.live_columns.known)
          redirect "/jobs/#{dossier.number}/captures#{hand_in(form)}", 303
        rescue Gadwall::InputError => error
          refuse_captures((error.field == "file" ? "file" : "capture") => error.message)
        rescue Store::Unusable => error
          refuse_captures({ "file" => error.message }, 507)
        end

        # Run and rest of a pump from the technician's stop-watch, stored like a capture.
        app.post("/jobs/:number/captures/stop-watch") do
          cycle = Gadwall::Signals::PumpCycle.new(run_s: seconds("run"), rest_s: seconds("rest"))
          id = store_capture("Stop-watch", cycle.to_h, circuit: known_circuit(input.text("circuit")))
          redirect "/jobs/#{dossier.number}/captures/#{id}", 303
        rescue Gadwall::InputError => error
          refuse_captures("stop-watch" => error.message)
        end

        # A wrong one taken back, with a reason: it stays in the record and counts no more.
        app.post("/jobs/:number/captures/:id/withdraw") do
          id = params["id"]
          reason = Gadwall::Signature.trimmed(input.text("reason"))
          problem = withdrawal_problem(reason)
          next refuse_captures({ "withdraw-#{id}" => problem }) if problem

          workshop.captures.withdraw(dossier.record, id, reason: reason, by: person, at: now.iso8601)
          redirect "/jobs/#{dossier.number}/captures", 303
        end

        # How far an analysis is; where it is done, on to what it found.
        app.get("/jobs/:number/captures/analyses/:id") do
          analysis = workshop.analyses.find(dossier.record, params["id"])
          follow_on(analysis.capture_id) if %w[done cancelled].include?(analysis.state)
          next redirect("/jobs/#{dossier.number}/captures", 303) unless htmx?

          partial("captures/_analysis", analysis: analysis, base: "/jobs/#{dossier.number}")
        end

        app.post("/jobs/:number/captures/analyses/:id/cancel") do
          workshop.analyses.cancel(workshop.analyses.find(dossier.record, params["id"]))
          redirect "/jobs/#{dossier.number}/captures", 303
        end

        app.helpers(HandingIn)
      end

      # From a file to a stored capture or a running analysis.
      module HandingIn
        # Returns where to look next: the end of an address.
        def hand_in(form)
          token = input.token || SecureRandom.hex(16)
          form.options
          if form.slow?
            workshop.analyses.start(dossier.record, form, id: token, at: now.iso8601)
            return "#analysis-#{token}"
          end

          analysis, waveform = form.view
          files = { waveform: waveform.to_bytes, source: form.source }
          "/#{store_capture(form.name, analysis, circuit: form.circuit_id, token: token, **files)}"
        end

        def store_capture(name, analysis, circuit:, token: input.token, **files)
          at = now.iso8601
          workshop.captures.save(
            dossier.record,
            name: name,
            circuit: circuit,
            analysis: analysis,
            at: at,
            token: token,
            **files
          )
        end

        MOST_REASON = 1000

        # Why a capture may not be taken back like this, or nil.
        def withdrawal_problem(reason)
          return "#{dossier.number} is handed over: its record stays as it is." if dossier.handed_over?
          return "Enter what was wrong with it: the capture stays in the record with your reason." if reason.empty?

          "#{reason.length} letters; at most #{MOST_REASON}. Shorten it." if reason.length > MOST_REASON
        end

        def known_circuit(id)
          dossier.system.circuits.map(&:id).find { |known| known == id }
        end

        def follow_on(capture_id)
          onward = "/jobs/#{dossier.number}/captures#{"/#{capture_id}" if capture_id}"
          redirect onward, 303 unless htmx?

          headers "HX-Redirect" => onward
          halt 200, ""
        end

        # Seconds, or what was typed where it is no number.
        def seconds(field)
          input.decimal(field) || input.text(field)
        end

        def show_captures(**more)
          pages = workshop.captures.for_job(dossier.record).map { |stored| Pages::CapturePage.new(dossier, stored) }
          back = workshop.captures.withdrawn(dossier.record)
          show(
            Pages::CapturesPage.new(dossier, pages, workshop.analyses.for_job(dossier.record), withdrawn: back, **more)
          )
        end

        def refuse_captures(errors, code = 422)
          status code
          typed = %w[kind circuit teeth channel run rest].to_h { |name| [name, input.text(name)] }
          show_captures(errors: errors, typed: typed)
        end
      end
    end
  end
end
