# frozen_string_literal: true

module Web
  module Routes
    # What leaves the workshop: the report and the case file; and what is noted after the hand-over.
    module Report
      Acts = Gadwall::Job::Acts

      def self.registered(app)
        app.get("/jobs/:number/report") { show(report_page) }

        app.get("/jobs/:number/report.pdf") do
          content_type :pdf
          attachment "#{dossier.number}.pdf", :inline
          Pdf::ReportPdf.new(report_page, money: method(:money), card: workshop.card).to_s
        end

        {
          "evidence" => Pages::ReportCsv.method(:evidence),
          "codes" => Pages::ReportCsv.method(:codes)
        }.each do |name, table|
          app.get("/jobs/:number/#{name}.csv") do
            content_type "text/csv", charset: "utf-8"
            attachment "#{dossier.number}-#{name}.csv"
            table.call(dossier)
          end
        end

        app.get("/jobs/:number/case.json") do
          record = dossier.record
          content_type :json
          attachment "#{record.number}.json"
          extra = record.to_h.slice(:number, :customer, :complaint, :taken_in_at, :promised_at).compact
          extra[:simulated] = true if Pages::Page.new(dossier).simulated?
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

        # The vehicle that came back, checked in as a job of its own that names the first.
        app.post("/jobs/:number/comeback-job") do
          last = dossier.log.of("comeback").last
          unless last
            status 422
            next show(report_page(errors: { "comeback" => "Save first what the customer reports." }))
          end
          redirect comeback_job(last.words), 303
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
          def comeback_job(words)
            record = dossier.record
            values = {
              vehicle: record.vehicle,
              customer: record.customer,
              complaint: words,
              ids: [],
              triage: [],
              comeback_of: record.number
            }
            workshop.check_in(values, by: person, token: form_token) { |job| "/jobs/#{job.number}/codes" }
          end

          def report_page(**more)
            captures = workshop.captures.for_job(dossier.record)
            Pages::ReportPage.new(dossier, captures: captures, now: now, preferences: preferences, **more)
          end

          # The day and time of a form as ISO 8601, or what was typed where it is none.
          def promised(text)
            text.empty? ? "" : Time.parse(text, now.localtime).utc.iso8601
          rescue ArgumentError
            text
          end
        end
      end
    end
  end
end
