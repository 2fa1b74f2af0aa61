# frozen_string_literal: true

module Web
  module Routes
    # The steps of the job, with holds and waits.
    module Repair
      def self.registered(app)
        app.get("/jobs/:number/repair") do
          erb :"repair/show", locals: { file: desk.file(params["number"]), errors: {}, typed: {}, now: desk.now }
        end

        app.post("/jobs/:number/repair/:step") do
          file = desk.file(params["number"])
          plan = file.standing.plan or
            raise Gadwall::InputError.new(
                    field: "step",
                    given: params["step"],
                    expected: "a repair chosen under Decide first"
                  )
          value =
            params["state"] == "started" ? begin_wait(plan) : plan.accept(params["step"], params["value"], desk.now)
          entry = {
            "kind" => "step",
            "step" => params["step"],
            "state" => params["state"] == "started" ? "started" : "done",
            "value" => value
          }
          save(file, entry, :"repair/show", typed: {}, now: desk.now) do
            redirect to("/jobs/#{file.job.number}/repair##{params["step"]}"), 303
          end
        rescue Gadwall::UnknownNameError
          raise
        rescue Gadwall::InputError => error
          raise unless file&.standing&.plan

          status 422
          erb :"repair/show",
              locals: {
                file: file,
                errors: {
                  params["step"] => error.message
                },
                typed: {
                  params["step"] => params["value"]
                },
                now: desk.now
              }
        end

        app.helpers do
          def begin_wait(plan)
            step = plan.step(params["step"])
            return nil if step.wait_minutes && step.open && step.started_at.nil?

            raise Gadwall::InputError.new(
                    field: "wait",
                    given: step.title,
                    expected: "a step with a wait, whose turn it is and whose clock does not run yet"
                  )
          end
        end
      end
    end
  end
end
