# frozen_string_literal: true

module Web
  module Routes
    # The vehicles in the workshop, the closed jobs, and one job's own door.
    module Jobs
      RENEWING_S = 0.1 # so long a page renews summaries by itself
      RENEWED_AT_ONCE = 20

      def self.registered(app)
        app.get("/") do
          renew_few
          closed = workshop.summaries.count(closed: true)
          listed = workshop.summaries.open
          show(
            Pages::JobsPage.new(
              listed,
              now: now,
              closed: closed,
              page: input.integer("page") || 1,
              watched: workshop.summaries.watched
            )
          )
        end

        app.get("/jobs/closed") do
          page = (input.integer("page") || 1).clamp(1, 100_000)
          text = input.text_or_nil("q")&.slice(0, 100)
          shown = Pages::ClosedJobsPage::SHOWN
          listed = workshop.summaries.closed(offset: (page - 1) * shown, limit: shown, text: text)
          count = workshop.summaries.count(closed: true, text: text)
          show(Pages::ClosedJobsPage.new(listed, count: count, text: text, page: page, now: now))
        end

        app.get("/jobs/:number") { redirect "/jobs/#{params["number"]}/#{stage_now}", 303 }
        app.get("/jobs/:number/intake") { redirect "/jobs/#{dossier.number}/codes", 303 }

        app.post("/jobs/:number/notes") do
          done =
            perform(Gadwall::Job::Acts::AddNote, { words: input.text("words") }) { |job| "/jobs/#{job.number}/report" }
          finish(done) { show(report_page(errors: done.errors)) }
        end

        app.helpers do
          # Where the job stands, by its summary where that is of today's engine: nothing is computed for it.
          def stage_now
            summary = workshop.summaries.find(workshop.jobs.find(params["number"]))
            summary && summary.engine == Gadwall::Diagnosis.engine ? summary.stage : dossier.stage.id
          end

          # The few summaries that an older version left are written now; more of them wait for the background.
          def renew_few
            ids = workshop.summaries.stale_ids(Gadwall::Diagnosis.engine, limit: Jobs::RENEWED_AT_ONCE)
            enough = Process.clock_gettime(Process::CLOCK_MONOTONIC) + Jobs::RENEWING_S
            ids.each do |id|
              workshop.summary(workshop.loader.by_id(id))
              break if Process.clock_gettime(Process::CLOCK_MONOTONIC) > enough
            end
          end
        end
      end
    end
  end
end
