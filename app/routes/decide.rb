# frozen_string_literal: true

module Web
  module Routes
    # What to do about the verdict.
    module Decide
      def self.registered(app)
        app.get("/jobs/:number/decide") do
          erb :"decide/show", locals: { file: desk.file(params["number"]), errors: {}, values: Hash.new("") }
        end

        app.post("/jobs/:number/decide") do
          file = desk.file(params["number"])
          errors = decision_errors(file)
          if errors.any?
            status 422
            next erb(:"decide/show", locals: { file: file, errors: errors, values: params })
          end
          entry = {
            "kind" => "decision",
            "option" => params["option"],
            "place" => file.standing.options.conclusion.suspect.place,
            "words" => params["words"].to_s.strip,
            "signed_by" => params["signed_by"].to_s.strip
          }
          save(file, entry, :"decide/show", values: params) do
            redirect to(
                       "/jobs/#{file.job.number}/#{desk.file(file.job.number).standing.decision ? "repair" : "decide"}"
                     ),
                     303
          end
        end

        app.helpers(Checks)
      end

      # What a decision must have.
      module Checks
        def decision_errors(file)
          return { "option" => "A repair is chosen already." } if file.standing.decision

          choice = file.standing.options.choice(params["option"].to_s)
          return { "option" => "Choose one of the options." } unless choice
          if choice.safety == "sign" && triage(file).any?
            return(
              {
                "option" =>
                  "Refused: with #{triage(file).join(" and ")} the vehicle cannot be left as it is. Choose a repair."
              }
            )
          end
          if file.standing.options.conclusion.state == "open" && choice.id != "watch"
            return { "option" => "Refused: the verdict is still open. Test on, or choose to watch." }
          end

          refusal = choice.id == "watch" ? nil : too_early(file)
          return { "option" => refusal } if refusal

          if params["signed_by"].to_s.strip.empty?
            { "signed_by" => "Empty. The customer's name under his answer, or who gave it by telephone." }
          else
            {}
          end
        end

        # No module is condemned before its gates are passed. Returns the refusal, or nil.
        def too_early(file)
          verdict = file.standing.options.conclusion
          return if verdict.proven? || verdict.suspect.repair != "renew_module"

          gaps = verdict.missing.map { |gap| gap.text.downcase }
          "Refused: no module before its feeds, grounds and network are proven. " \
            "#{gaps.empty? ? "Test on until it is proven" : "Missing: #{gaps.join("; ")}"}."
        end

        def triage(file)
          ids = file.log.of("symptoms").flat_map { |entry| entry["triage"] || [] }
          ids.map { |id| Forms::IntakeForm::TRIAGE.fetch(id, id).downcase }
        end
      end
    end
  end
end
