# frozen_string_literal: true

module Web
  module Routes
    # Verifying that the fault is gone, and handing over; and what comes after.
    module Proof
      Acts = Gadwall::Job::Acts
      MOST_LOG_BYTES = 6_000_000 # about a second to read

      def self.registered(app)
        app.get("/jobs/:number/proof") { show_proof }

        app.post("/jobs/:number/proof/scan") do
          corrections = workshop.code_words.corrections
          form = Forms::CodesForm.new(input, dossier.sheet, corrections: corrections, phase: "after")
          unless form.ok?
            status 422
            next show_proof(form: form, errors: form.errors)
          end
          done = perform(Acts::KeepScan, form.act_values) { |job| proof_of(job) }
          finish(done) { show_proof(form: form, errors: done.errors) }
        end

        app.post("/jobs/:number/proof/repeat") do
          values = { test: input.text("test"), typed: typed_result, condition: nil, phase: "after" }
          done = perform(Acts::TakeReading, values) { |job| proof_of(job) }
          finish(done) do
            errors = done.errors.transform_keys { |field| field == "reading" ? "repeat" : field }
            show_proof(errors: errors, typed: { "repeat" => values[:typed] })
          end
        end

        app.post("/jobs/:number/proof/drive") do
          lists = %i[failed not_run].to_h { |name| [name, input.list(name.to_s).reject(&:empty?)] }
          done = perform(Acts::SignDrive, { read: input.text("read"), **lists }) { |job| proof_of(job) }
          finish(done) { show_proof(errors: done.errors, typed: lists.transform_keys(&:to_s)) }
        end

        app.post("/jobs/:number/proof/log") do
          done = perform(Acts::ReadDriveLog, drive_log) { |job| proof_of(job) }
          finish(done) { show_proof(errors: done.errors) }
        rescue Gadwall::InputError => error
          status 422
          show_proof(errors: { "drive_log" => error.message })
        end

        app.post("/jobs/:number/handover") do
          words = input.text("words")
          hand = -> { perform(Acts::HandOver, { words: words }) { |job| after_handover(job) } }
          done = practice? ? workshop.together { hand.call.tap { |handed| finish_on_stand if handed.ok? } } : hand.call
          finish(done) { show_proof(errors: done.errors, typed: { "words" => words }) }
        end

        app.helpers do
          def show_proof(**more)
            show(Pages::ProofPage.new(dossier, **more))
          end

          # {name, log} of the file that was handed in. Raises Gadwall::InputError.
          def drive_log
            upload = input.upload("file")
            fault = { field: "file", given: "", expected: "the log of the drive", fix: "Choose a file." }
            raise Gadwall::InputError.new(**fault) unless upload

            size = File.size(upload["tempfile"].path)
            if size > MOST_LOG_BYTES
              fix = "Save the drive alone, or fewer columns."
              expected = "at most #{MOST_LOG_BYTES / 1_000_000} MB"
              raise Gadwall::InputError.new(field: "file", given: "#{size} bytes", expected: expected, fix: fix)
            end
            log = Gadwall::Signals::LiveLog.read(upload["tempfile"], mapping: workshop.live_columns.known)
            { name: upload["filename"].scrub("?"), log: log }
          end

          def after_handover(job)
            "/jobs/#{job.number}/#{practice? ? "debrief" : "report"}"
          end

          # The exercise ends with its hand-over.
          def finish_on_stand
            on_stand({ "kind" => "finish" }) if connected_stand && !connected_stand.ended
          end

          def proof_of(job)
            "/jobs/#{job.number}/proof"
          end
        end
      end
    end
  end
end
