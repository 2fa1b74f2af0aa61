# frozen_string_literal: true

module Web
  module Routes
    # The heart: circuit, next test, reading, what it changed.
    module Trace
      def self.registered(app)
        app.get("/jobs/:number/trace") do
          file = desk.file(params["number"])
          show_trace(Pages::TracePage.new(file, test_id: params["test"], circuit_id: params["circuit"]))
        end

        app.post("/jobs/:number/readings") do
          file = desk.file(params["number"])
          refuse_when_closed(file)
          entry = reading_entry(file)
          desk.append(file.job, entry, params)
          after_write(file)
        rescue Store::Conflict => error
          again(409, "conflict", error.message)
        rescue Gadwall::InputError => error
          raise if error.field == "test"

          again(422, "reading", error.message)
        end

        app.post("/jobs/:number/withdrawals") do
          file = desk.file(params["number"])
          reason = params["reason"].to_s.strip
          if reason.empty?
            next(
              again(
                422,
                "withdraw-#{params["entry"]}",
                "Empty. Say what was wrong with it: the entry stays in the log with your reason."
              )
            )
          end

          standing_entry(file)
          desk.append(file.job, { "kind" => "withdraw", "entry" => params["entry"].to_i, "reason" => reason }, params)
          after_write(file)
        rescue Store::Conflict => error
          again(409, "conflict", error.message)
        end

        # What shifts the odds, said anew: the earlier entries are withdrawn, this one takes their place.
        app.post("/jobs/:number/circumstances") do
          file = desk.file(params["number"])
          refuse_when_closed(file)
          earlier = file.log.of("symptoms")
          desk.append(file.job, circumstances_entry(file, earlier), params)
          earlier.each do |entry|
            desk.append(
              file.job,
              { "kind" => "withdraw", "entry" => entry["seq"], "reason" => "circumstances said anew" },
              {}
            )
          end
          redirect to("/jobs/#{file.job.number}/trace"), 303
        rescue Store::Conflict => error
          again(409, "conflict", error.message)
        rescue Gadwall::InputError => error
          again(422, "symptoms", error.message)
        end

        app.helpers(Drawing)
      end

      # Showing the screen whole, or the part that htmx swaps.
      module Drawing
        def show_trace(page)
          htmx? ? partial("trace/_screen", page: page) : erb(:"trace/show", locals: { page: page, file: page.file })
        end

        def after_write(file)
          return redirect(to("/jobs/#{file.job.number}/trace"), 303) unless htmx?

          show_trace(Pages::TracePage.new(desk.file(file.job.number)))
        end

        # The same test again, with what was typed and what was wrong.
        def again(code, field, message)
          status code
          show_trace(
            Pages::TracePage.new(
              desk.file(params["number"]),
              test_id: params["test"],
              errors: {
                field => message
              },
              typed: params["reading"] || params["reason"]
            )
          )
        end

        def circumstances_entry(file, earlier)
          ids = Array(params["symptoms"]).map(&:to_s)
          known = file.log.system.catalogue.symptoms
          unknown = ids.find { |id| !known.key?(id) }
          raise Gadwall::UnknownNameError.new(field: "symptoms", given: unknown, known: known.keys) if unknown

          {
            "kind" => "symptoms",
            "ids" => ids,
            "words" => earlier.last&.fetch("words", nil) || file.job.complaint,
            "triage" => earlier.flat_map { |entry| entry["triage"] || [] }.uniq,
            "shop_cases" => params["shop_cases"] == "1"
          }
        end

        # Once the repair is chosen, a reading no longer belongs to the search.
        def refuse_when_closed(file)
          after = params["phase"] == "after"
          return unless file.standing.handed_over? || (file.standing.decision && !after)

          halt problem(
                 409,
                 "The search is closed",
                 "A repair is chosen for #{file.job.number}, so a reading no longer belongs to the search. Take the " \
                   "telling reading again under Prove."
               )
        end

        def standing_entry(file)
          if file.log.valid_entries.any? { |entry|
               entry["seq"] == params["entry"].to_i && %w[reading finding scan symptoms].include?(entry["kind"])
             }
            return
          end

          raise Gadwall::InputError.new(
                  field: "entry",
                  given: params["entry"],
                  expected: "an entry of this job that still stands"
                )
        end
      end
    end
  end
end
