# frozen_string_literal: true

module Web
  module Routes
    # Checking a vehicle in.
    module Intake
      def self.registered(app)
        app.get("/jobs/new") { show(Pages::IntakePage.new(Forms::IntakeForm.empty, templates: workshop.templates.all)) }

        app.post("/jobs") do
          form =
            Forms::IntakeForm.new(input, known: workshop.templates.all.to_h { |each| [each.id.to_s, each.vehicle] })
          outcome = form.ok? && Gadwall::Job::Acts::TakeIn.call(nil, form.act_values, by: person, at: now)
          form.errors.merge!(outcome.errors) if outcome
          redirect take_in(form, outcome), 303 if form.ok?

          status 422
          show(Pages::IntakePage.new(form, templates: workshop.templates.all))
        end

        app.helpers do
          # Returns where to go on: the pre-scan of the new job.
          def take_in(form, outcome)
            workshop.prepare(form.vehicle)
            record = Gadwall::Job::Acts::TakeIn.record(form.act_values, at: now)
            workshop.take_in(record, outcome.entries, by: person, token: form_token) do |job|
              "/jobs/#{job.number}/codes"
            end
          end
        end
      end
    end
  end
end
