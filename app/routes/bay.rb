# frozen_string_literal: true

module Web
  module Routes
    # The bay list: every vehicle, what it waits for and since when.
    module Bay
      def self.registered(app)
        app.get("/") { erb :"bay/index", locals: { files: desk.all_files, now: desk.now } }

        app.get("/jobs/:number") do
          file = desk.file(params["number"])
          redirect to("/jobs/#{file.job.number}/#{file.standing.stage}"), 303
        end

        app.get("/jobs/:number/intake") { redirect to("/jobs/#{params["number"]}/codes"), 303 }
      end
    end
  end
end
