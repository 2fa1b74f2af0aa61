# frozen_string_literal: true

module Web
  module Routes
    # The first scan and the last.
    module Codes
      def self.registered(app)
        app.get("/jobs/:number/codes") do
          file = desk.file(params["number"])
          erb :"codes/edit", locals: { file: file, form: nil, errors: {} }
        end

        app.post("/jobs/:number/codes") do
          file = desk.file(params["number"])
          form = Forms::CodesForm.new(params, file.log.system.sheet)
          unless form.ok?
            status 422
            next erb(:"codes/edit", locals: { file: file, form: form, errors: form.errors })
          end
          save(file, form.entry, :"codes/edit", form: form) { redirect to("/jobs/#{file.job.number}/#{form.phase == 'after' ? 'proof' : 'trace'}"), 303 }
        end

        app.post("/jobs/:number/codes/skip") do
          file = desk.file(params["number"])
          reason = params["reason"].to_s.strip
          if reason.empty?
            status 422
            next erb(:"codes/edit", locals: { file: file, form: nil, errors: { "reason" => "Empty. Say why no scan is made: without it nobody can tell what the job caused." } })
          end
          save(file, { "kind" => "scan_skipped", "reason" => reason }, :"codes/edit", form: nil) { redirect to("/jobs/#{file.job.number}/trace"), 303 }
        end
      end
    end
  end
end
