# frozen_string_literal: true

module Web
  module Routes
    # The steps of the job, with holds and waits, and the set-up routines that were run.
    module Repair
      Acts = Gadwall::Job::Acts
      ACTS = { "started" => Acts::BeginWait, "not_needed" => Acts::SkipStep }.freeze

      def self.registered(app)
        app.get("/jobs/:number/repair") { show_repair }

        app.post("/jobs/:number/repair/:step") do
          step = params["step"].to_s
          act = ACTS.fetch(input.text("state"), Acts::SignStep)
          values = { step: step, value: input.text("value"), reason: input.text("reason") }
          done = perform(act, values) { |job| "/jobs/#{job.number}/repair##{step}" }
          raise Store::NotFound.new(step, kind: "step") if done.errors["step"]

          finish(done) do
            show_repair(errors: done.errors, typed: { step => values[:value], "#{step}-reason" => values[:reason] })
          end
        end

        app.post("/jobs/:number/set-up") do
          values = %i[routine tool result note].to_h { |name| [name, input.text(name)] }
          done = perform(Acts::RecordSetUp, values) { |job| "/jobs/#{job.number}/repair#set-up" }
          finish(done) { show_repair(errors: done.errors, typed: values.transform_keys(&:to_s)) }
        end

        app.helpers do
          def show_repair(**more)
            show(Pages::RepairPage.new(dossier, now: now, **more))
          end
        end
      end
    end
  end
end
