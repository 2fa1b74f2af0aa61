# frozen_string_literal: true

module Web
  module Routes
    # Taking a vehicle in.
    module Intake
      def self.registered(app)
        app.get("/jobs/new") { erb :"intake/new", locals: { form: nil, values: Hash.new(""), errors: {} } }

        app.post("/jobs") do
          form =
            Forms::IntakeForm.new(
              params,
              known: desk.templates.all.to_h { |template| [template.id.to_s, template.vehicle] }
            )
          unless form.ok?
            status 422
            next erb(:"intake/new", locals: { form: form, values: form.values, errors: form.errors })
          end
          job =
            desk.jobs.create(
              vehicle: form.vehicle,
              customer: form.values["customer"],
              complaint: form.values["complaint"],
              at: desk.now.iso8601,
              token: params["form_token"]
            )
          desk.entries.append(
            job,
            form.symptoms_entry,
            at: desk.now.iso8601,
            by: "intake",
            token: "#{params["form_token"]}-symptoms"
          )
          redirect to("/jobs/#{job.number}/codes"), 303
        end
      end
    end
  end
end
