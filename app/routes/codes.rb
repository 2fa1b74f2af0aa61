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
          form = Forms::CodesForm.new(params, file.log.system.sheet, corrections: desk.code_words.corrections)
          unless form.ok?
            status 422
            next erb(:"codes/edit", locals: { file: file, form: form, errors: form.errors })
          end
          save(file, form.entry, :"codes/edit", form: form) do
            redirect to("/jobs/#{file.job.number}/#{form.phase == "after" ? "proof" : "trace"}"), 303
          end
        end

        # What a code means, by the technician's word: the scan is said anew with it, and the shop remembers.
        app.post("/jobs/:number/codes/correct") do
          file = desk.file(params["number"])
          scan, index = scan_and_index(file)
          row =
            scan["codes"][index]
              .merge("circuit" => params["circuit"].to_s, "claim" => params["claim"].to_s)
              .reject { |name, value| %w[circuit claim].include?(name) && value.empty? }
          Gadwall::Codes::CodeReader.new(file.log.system.sheet, file.log.system.catalogue).read(row)
          anew =
            scan.except("seq", "at", "by").merge(
              "codes" => scan["codes"].each_with_index.map { |code, i| i == index ? row : code }
            )
          save(file, anew, :"codes/edit", form: nil) do
            desk.append(
              file.job,
              { "kind" => "withdraw", "entry" => scan["seq"], "reason" => "#{row["code"]} read anew" },
              {}
            )
            if row["circuit"] || row["claim"]
              desk.code_words.keep(
                Gadwall::Codes::CodeReader.key(row),
                circuit: row["circuit"],
                claim: row["claim"],
                at: desk.now.iso8601
              )
            end
            redirect to("/jobs/#{file.job.number}/codes"), 303
          end
        end

        # Flashes tapped along with the lamp. Answers with what they say.
        app.post("/jobs/:number/codes/flash") do
          times = JSON.parse(params["times"].to_s)
          partial "codes/_flashes", read: Gadwall::Codes::FlashCodes.read(times.is_a?(Array) ? times : [])
        rescue JSON::ParserError, Gadwall::InputError
          partial "codes/_flashes", read: nil
        end

        app.post("/jobs/:number/codes/skip") do
          file = desk.file(params["number"])
          reason = params["reason"].to_s.strip
          if reason.empty?
            status 422
            next(
              erb(
                :"codes/edit",
                locals: {
                  file: file,
                  form: nil,
                  errors: {
                    "reason" => "Empty. Say why no scan is made: without it nobody can tell what the job caused."
                  }
                }
              )
            )
          end
          save(file, { "kind" => "scan_skipped", "reason" => reason }, :"codes/edit", form: nil) do
            redirect to("/jobs/#{file.job.number}/trace"), 303
          end
        end

        app.helpers do
          def scan_and_index(file)
            scan = file.log.of("scan").find { |entry| entry["seq"] == params["scan"].to_i }
            index = Integer(params["index"].to_s, 10, exception: false)
            return scan, index if scan && index&.between?(0, scan["codes"].size - 1)

            raise Gadwall::InputError.new(
                    field: "code",
                    given: params["index"],
                    expected: "a code of a scan that still stands"
                  )
          end
        end
      end
    end
  end
end
