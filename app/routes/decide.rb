# frozen_string_literal: true

module Web
  module Routes
    # What to do about the diagnosis: decided with the customer, or opened again.
    module Decide
      Acts = Gadwall::Job::Acts

      def self.registered(app)
        app.get("/jobs/:number/decide") { show_decision }

        app.post("/jobs/:number/decide") do
          values = { option: input.text("option"), words: input.text("words"), signed_by: input.text("signed_by") }
          done = perform(Acts::Decide, values) { |job| "/jobs/#{job.number}/#{job.decided? ? "repair" : "decide"}" }
          finish(done) { show_decision(errors: done.errors, typed: values.transform_keys(&:to_s)) }
        end

        app.get("/jobs/:number/customer") { show(Pages::CustomerPage.new(dossier)) }

        # The customer's own answer, with the text that he saw.
        app.post("/jobs/:number/customer") do
          values = { option: input.text("option"), words: input.text("words"), signed_by: input.text("signed_by") }
          page = Pages::CustomerPage.new(dossier)
          shown = page.options && page.shown { |amount| money(amount) }
          done =
            perform(Acts::Decide, { **values, shown: shown }) do |job|
              "/jobs/#{job.number}/#{job.decided? ? "repair" : "customer"}"
            end
          finish(done) do
            show(Pages::CustomerPage.new(dossier, errors: done.errors, typed: values.transform_keys(&:to_s)))
          end
        end

        app.post("/jobs/:number/reopen") do
          reason = input.text("reason")
          done = perform(Acts::Reopen, { reason: reason }) { |job| "/jobs/#{job.number}/trace" }
          finish(done) { show_decision(errors: done.errors, typed: { "reason" => reason }) }
        end

        app.post("/jobs/:number/plan") do
          done = perform(Acts::RenewPlan) { |job| "/jobs/#{job.number}/repair" }
          finish(done) { show_decision(errors: done.errors) }
        end

        app.helpers do
          def show_decision(**more)
            show(Pages::DecidePage.new(dossier, **more))
          end
        end
      end
    end
  end
end
