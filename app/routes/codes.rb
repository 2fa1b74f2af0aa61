# frozen_string_literal: true

module Web
  module Routes
    # The pre-scan.
    module Codes
      Acts = Gadwall::Job::Acts

      def self.registered(app)
        app.get("/jobs/:number/codes") { show(codes_page) }

        app.post("/jobs/:number/codes") do
          form = Forms::CodesForm.new(input, dossier.sheet, corrections: workshop.code_words.corrections)
          unless form.ok?
            status 422
            next show(codes_page(form: form, errors: form.errors))
          end
          done = perform(Acts::KeepScan, form.act_values) { |job| "/jobs/#{job.number}/trace" }
          finish(done) { show(codes_page(form: form, errors: done.errors)) }
        end

        # What a DTC means, by the technician's word: the scan is entered again with it, and the workshop remembers.
        app.post("/jobs/:number/codes/correct") do
          values = {
            scan: input.integer("scan"),
            index: input.integer("index"),
            circuit: input.text("circuit"),
            claim: input.text("claim")
          }
          row = code_row(values)
          done =
            workshop.together do
              perform(Acts::CorrectCode, values) { |job| "/jobs/#{job.number}/codes" }.tap do |corrected|
                remember_code(row, values) if corrected.ok? && row
              end
            end
          finish(done) { show(codes_page(errors: done.errors)) }
        end

        # Flashes tapped along with the lamp. Answers with what they say.
        app.post("/jobs/:number/codes/flash") do
          times = Gadwall::Quantity::Decimal.json(input.raw("times"), field: "times")
          partial "codes/_flashes", read: Gadwall::TroubleCodes::FlashCodes.read(times.is_a?(Array) ? times : [])
        rescue Gadwall::InputError
          partial "codes/_flashes", read: nil
        end

        app.post("/jobs/:number/codes/skip") do
          reason = input.text("reason")
          done = perform(Acts::SkipScan, { reason: reason }) { |job| "/jobs/#{job.number}/trace" }
          finish(done) { show(codes_page(errors: done.errors, typed: { "reason" => reason })) }
        end

        app.helpers do
          def codes_page(**more)
            Pages::CodesPage.new(dossier, earlier: workshop.earlier_scan(dossier), **more)
          end

          # The row of the scan that a correction speaks of, or nil.
          def code_row(values)
            scan = dossier.log.of("scan").find { |entry| entry.seq == values[:scan] }
            scan && values[:index] ? scan.codes[values[:index]] : nil
          end

          def remember_code(row, values)
            said = values.slice(:circuit, :claim).reject { |_, value| value.empty? }
            return if said.empty?

            key = Gadwall::TroubleCodes::CodeReader.key(row)
            workshop.code_words.save(key, circuit: said[:circuit], claim: said[:claim], at: now.iso8601)
          end
        end
      end
    end
  end
end
