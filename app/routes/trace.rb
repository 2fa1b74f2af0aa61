# frozen_string_literal: true

module Web
  module Routes
    # The heart: circuit, next test, reading, what it changed.
    module Trace
      Acts = Gadwall::Job::Acts

      def self.registered(app)
        app.get("/jobs/:number/trace") do
          kept_page("trace") do
            show_trace(trace_page(test_id: input.text_or_nil("test"), circuit_id: input.text_or_nil("circuit")))
          end
        end

        app.post("/jobs/:number/readings") do
          values = {
            test: input.text("test"),
            typed: typed_result,
            condition: input.text_or_nil("condition"),
            caught: input.integer("caught"),
            tries: input.integer("tries"),
            phase: "before"
          }
          done = perform(Acts::TakeReading, values) { |job| "/jobs/#{job.number}/trace" }
          traced(
            done,
            test_id: values[:test],
            typed: {
              "reading" => values[:typed],
              "caught" => input.text("caught"),
              "tries" => input.text("tries")
            }
          )
        end

        app.post("/jobs/:number/withdrawals") do
          values = { entry: input.integer("entry"), reason: input.text("reason") }
          done = perform(Acts::Withdraw, values) { |job| "/jobs/#{job.number}/#{job.stage.id}" }
          if !done.ok? && dossier.trouble
            next show(Pages::TroublePage.new(dossier, dossier.trouble, errors: done.errors))
          end

          traced(done, typed: { "reason" => values[:reason] })
        end

        app.post("/jobs/:number/circumstances") do
          values = { ids: input.list("symptoms"), shop_cases: input.text("shop_cases") == "1" }
          done = perform(Acts::SayCircumstances, values) { |job| "/jobs/#{job.number}/trace" }
          finish(done) { show_trace(trace_page(errors: done.errors)) }
        end

        app.post("/jobs/:number/presence") do
          done = perform(Acts::SayPresence, { fault: input.text("fault") }) { |job| "/jobs/#{job.number}/trace" }
          traced(done)
        end

        app.post("/jobs/:number/lamps") do
          form = Forms::LampsForm.new(input)
          done = perform(Acts::NoteLamps, form.act_values) { |job| "/jobs/#{job.number}/trace" }
          finish(done) { show_trace(trace_page(errors: done.errors)) }
        end

        app.helpers(Drawing)
      end

      # Showing the screen whole, or the part that htmx swaps.
      module Drawing
        # An outcome is a button, a number is typed.
        def typed_result
          input.given?("result") ? input.text("result") : input.raw("reading")
        end

        def trace_page(**more)
          Pages::TracePage.new(dossier, change: workshop.summary(dossier).change, **more)
        end

        def show_trace(page)
          htmx? ? partial("trace/_screen", page: page) : show(page)
        end

        # After an act, the screen of the job as it is now; after a refusal, the same test with what was typed.
        def traced(done, test_id: nil, typed: {})
          if done.ok?
            return redirect(done.landing, 303) unless htmx? && done.landing.end_with?("/trace")

            page = trace_page
            return kept_screen("trace", page) { show_trace(page) }
          end
          return outdated(done) if done.errors.key?("conflict") && test_id.nil?

          status done.status
          known = test_id && done.errors["test"].nil?
          show_trace(trace_page(test_id: known ? test_id : nil, errors: done.errors, typed: typed))
        end
      end
    end
  end
end
