# frozen_string_literal: true

module Web
  module Routes
    # Parameter sets of the vehicle, kept and compared.
    module Parameters
      Acts = Gadwall::Job::Acts

      def self.registered(app)
        app.get("/jobs/:number/parameters") { show_parameters }

        app.post("/jobs/:number/parameters") do
          upload = input.upload("file")
          text = upload ? upload["tempfile"].read(App::MOST_BYTES) : input.raw("text")
          values = {
            source: input.text("source"),
            text: text,
            file: upload && File.basename(upload["filename"])[0, 200]
          }
          done = perform(Acts::KeepParameters, values) { |job| "/jobs/#{job.number}/parameters" }
          typed = { "source" => values[:source], "text" => upload ? "" : values[:text] }
          finish(done) { show_parameters(errors: done.errors, typed: typed) }
        end

        app.helpers do
          def show_parameters(**more)
            show(Pages::ParametersPage.new(dossier, earlier: workshop.parameters.of_vehicle(dossier.record), **more))
          end
        end
      end
    end
  end
end
