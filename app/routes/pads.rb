# frozen_string_literal: true

module Web
  module Routes
    # Pads and discs of a vehicle.
    module Pads
      def self.registered(app)
        app.get("/jobs/:number/pads") { show(pads_page) }

        app.post("/jobs/:number/pads") do
          typed = { "readings" => readings(input.fields("readings")), "new_at" => input.text("new_at") }
          values = { readings: in_millimetres(typed["readings"]), new_at: typed["new_at"] }
          done = perform(Gadwall::Job::Acts::MeasurePads, values) { |job| "/jobs/#{job.number}/pads" }
          finish(done) { show(pads_page(errors: done.errors, typed: typed)) }
        end

        app.helpers do
          def pads_page(**more)
            Pages::PadsPage.new(dossier, earlier: earlier_pads, units: preferences, **more)
          end

          # Everything but the distance is a length.
          def in_millimetres(fields)
            fields.to_h do |name, value|
              next name, in_millimetres(value) if value.is_a?(Hash)

              [name, name == "distance" ? value : preferences.kept(value, "mm")]
            end
          end

          # Sheets of the vehicle's other jobs, oldest first.
          def earlier_pads
            workshop.jobs.of_vehicle(dossier.record).reverse.flat_map { |job| workshop.entries.of_kind(job, "pads") }
          end

          # Texts and fields of texts only.
          def readings(fields)
            fields.filter_map { |name, value| [name, value.is_a?(Hash) ? readings(value) : value.to_s] }.to_h
          end
        end
      end
    end
  end
end
