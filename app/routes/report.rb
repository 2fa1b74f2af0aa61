# frozen_string_literal: true

module Web
  module Routes
    # What leaves the workshop: the report and the case file; and what is noted after the hand-over.
    module Report
      Acts = Gadwall::Job::Acts

      def self.registered(app)
        app.get("/jobs/:number/report") { show(report_page) }

        app.get("/jobs/:number/case.json") do
          record = dossier.record
          content_type :json
          attachment "#{record.number}.json"
          extra = record.to_h.slice(:number, :customer, :complaint, :taken_in_at, :promised_at).compact
          Gadwall::CaseFile.dump(
            vehicle: record.vehicle,
            entries: dossier.log.entries.map(&:to_h),
            extra: extra.transform_keys(&:to_s)
          )
        end

        app.post("/jobs/:number/comebacks") do
          values = { words: input.text("words"), same: input.text("same") == "1" }
          done = perform(Acts::NoteComeback, values) { |job| "/jobs/#{job.number}/report" }
          finish(done) { show(report_page(errors: done.errors, typed: { "words" => values[:words] })) }
        end

        app.post("/jobs/:number/watch-results") do
          values = { result: input.text("result"), words: input.text("words") }
          done = perform(Acts::WatchResult, values) { |job| "/jobs/#{job.number}/report" }
          finish(done) { show(report_page(errors: done.errors)) }
        end

        app.post("/jobs/:number/promise") do
          values = { promised_at: promised(input.text("promised")) }
          done = perform(Acts::Promise, values) { |job| "/jobs/#{job.number}" }
          finish(done) { show(report_page(errors: done.errors)) }
        end

        app.helpers do
          def report_page(**more)
            Pages::ReportPage.new(dossier, **more)
          end

          # The day and time of a form as ISO 8601, or what was typed where it is none.
          def promised(text)
            text.empty? ? "" : Time.parse(text).utc.iso8601
          rescue ArgumentError
            text
          end
        end
      end
    end
  end
end
