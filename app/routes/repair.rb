# frozen_string_literal: true

module Web
  module Routes
    # The steps of the job, with holds and waits, and the set-up routines that were run.
    module Repair
      Acts = Gadwall::Job::Acts
      ACTS = { "started" => Acts::BeginWait, "not_needed" => Acts::SkipStep }.freeze

      def self.registered(app)
        app.get("/jobs/:number/repair") { show_repair(shown: input.text_or_nil("step")) }

        app.post("/jobs/:number/repair/:step") do
          step = params["step"].to_s
          act = ACTS.fetch(input.text("state"), Acts::SignStep)
          values = step_values(step)
          figures = kept_figures(step_of(step), values[:figures])
          done = signed(act, step, values.merge(figures: figures))
          raise Store::NotFound.new(step, kind: "step") if done.errors["step"]

          finish(done) { refused_step(step, values, as_typed(done.errors, values[:figures], figures)) }
        end

        app.post("/jobs/:number/set-up") do
          values = %i[routine tool result note step code].to_h { |name| [name, input.text(name)] }
          step = input.text_or_nil("step")
          done =
            perform(Acts::RecordSetUp, values) { |job| "/jobs/#{job.number}/repair#{"?step=#{step}" if step}#set-up" }
          finish(done) { show_repair(shown: step, errors: done.errors, typed: values.transform_keys(&:to_s)) }
        end

        app.helpers Signing
        app.helpers do
          def show_repair(**more)
            tools = workshop.set_ups.like(dossier.record)
            show(Pages::RepairPage.new(dossier, now: now, preferences: preferences, tools: tools, **more))
          end

          def step_values(step)
            texts = %i[value reason tool before after].to_h { |name| [name, input.text(name)] }
            figures = input.fields("figures").select { |_, text| text.is_a?(String) }
            { step: step, figures: figures, ticks: input.list("ticks").reject(&:empty?), **texts }
          end

          # A step of the proof was signed on its page.
          def after_step(job, step, act)
            row = job.plan.row(step)
            return "/jobs/#{job.number}/proof" if job.plan.proof.include?(row)

            "/jobs/#{job.number}/repair#{"?step=#{step}" if act == Acts::BeginWait}"
          end

          def refused_step(step, values, errors)
            typed = {
              "figures" => values[:figures],
              "ticks" => values[:ticks],
              "#{step}-reason" => values[:reason],
              **values.slice(:tool, :before, :after).transform_keys(&:to_s)
            }
            return show_proof(errors: errors, typed: typed) if dossier.plan&.proof&.any? { |row| row.id == step }

            show_repair(shown: step, errors: errors, typed: typed)
          end
        end
      end

      # Signing a step, on the record and on the vehicle of an exercise.
      module Signing
        # What came of it; on an exercise the step is done on the vehicle, too.
        def signed(act, step, values)
          sign = -> { perform(act, values) { |job| after_step(job, step, act) } }
          return sign.call unless practice? && act == Acts::SignStep

          workshop.together { sign.call.tap { |done| follow_on_stand(step) if done.ok? } }
        end

        # The step of the plan, or nil.
        def step_of(id)
          dossier.plan && (dossier.plan.repair + dossier.plan.proof).find { |row| row.id == id }&.step
        end
      end
    end
  end
end
