# frozen_string_literal: true

module Web
  module Routes
    # Proving that the fault is gone, and handing over.
    module Proof
      def self.registered(app)
        app.get("/jobs/:number/proof") do
          erb :"proof/show", locals: { file: desk.file(params["number"]), form: nil, errors: {}, typed: nil }
        end

        app.post("/jobs/:number/proof/scan") do
          file = proof_file
          form =
            Forms::CodesForm.new(
              params.merge("phase" => "after"),
              file.log.system.sheet,
              corrections: desk.code_words.corrections
            )
          next proof_again(file, form.errors, form: form) unless form.ok?

          save(file, form.entry, :"proof/show", form: form, typed: nil) { to_proof(file) }
        end

        app.post("/jobs/:number/proof/repeat") do
          file = proof_file
          params["phase"] = "after"
          entry = reading_entry(file)
          save(file, entry, :"proof/show", form: nil, typed: params["reading"]) { to_proof(file) }
        rescue Gadwall::InputError => error
          raise if %w[test proof].include?(error.field)

          proof_again(file, { "repeat" => error.message }, typed: params["reading"])
        end

        app.post("/jobs/:number/proof/drive") do
          file = proof_file
          id = params["item"].to_s
          unless file.log.system.catalogue.drive.key?(id)
            next proof_again(file, { "drive" => "'#{id[0, 30]}' is not a part of the drive. Choose one of the list." })
          end

          save(
            file,
            {
              "kind" => "step",
              "step" => "drive.#{id}",
              "state" => "done",
              "value" => params["result"] == "failed" ? "failed" : "good"
            },
            :"proof/show",
            form: nil,
            typed: nil
          ) { to_proof(file) }
        end

        app.post("/jobs/:number/handover") do
          file = proof_file
          points = file.standing.proof.open_points
          words = params["words"].to_s.strip
          if points.any? && words.empty?
            next(
              proof_again(
                file,
                {
                  "handover" =>
                    "Open: #{points.join(", ")}. Say what the customer was told about it, or finish it first."
                },
                typed: words
              )
            )
          end

          save(
            file,
            { "kind" => "handover", "words" => words, "open" => points, "causes" => causes(file) },
            :"proof/show",
            form: nil,
            typed: nil
          ) { redirect to("/jobs/#{file.job.number}/report"), 303 }
        end

        app.helpers(Showing)
      end

      # The proof screen again, and its gate.
      module Showing
        def proof_file
          file = desk.file(params["number"])
          return file if file.standing.plan&.done? && !file.standing.handed_over?

          raise Gadwall::InputError.new(
                  field: "proof",
                  given: file.job.number,
                  expected: "a job whose repair steps are all signed, not handed over yet"
                )
        end

        # What it turned out to be, for the shop's memory: only what was proven.
        def causes(file)
          proven = file.standing.assessment.verdict.conclusions.select(&:proven?).reject { |line| line.suspect.cause }
          proven
            .flat_map { |line| line.suspect.members }
            .map { |circuit, fault| { "template" => circuit.harness.id, "fault" => fault.id } }
        end

        def to_proof(file)
          redirect to("/jobs/#{file.job.number}/proof"), 303
        end

        def proof_again(file, errors, form: nil, typed: nil)
          status 422
          erb :"proof/show", locals: { file: file, errors: errors, form: form, typed: typed }
        end
      end
    end
  end
end
