# frozen_string_literal: true

module Web
  module Routes
    # Quick sums, and their results taken into jobs.
    module Sums
      MOST_LETTERS = 80

      def self.registered(app)
        app.get("/sums") { show_sums(sums_page) }

        app.post("/sums/take") do
          page = sums_page
          next refused_sum(page) unless page.done

          number = input.text("job")
          note = { words: page.note }
          done =
            workshop.perform(number, Gadwall::Job::Acts::AddNote, note, by: person, token: form_token) do |job|
              "/jobs/#{job.number}/report"
            end
          redirect "/sums?#{Rack::Utils.build_query(given_sum.merge("taken" => number))}", 303 if done.ok?

          status done.status
          show_sums(page)
        end

        # The result as the reading of the test that is asked for next in a job.
        app.post("/sums/read") do
          page = sums_page
          next refused_sum(page) unless page.done

          number = input.text("job")
          option = workshop.dossier(number).assessment.next_tests.first
          values = { test: option&.id.to_s, typed: page.reading.to_s, phase: "before" }
          done =
            workshop.perform(number, Gadwall::Job::Acts::TakeReading, values, by: person, token: form_token) do |job|
              "/jobs/#{job.number}/trace"
            end
          redirect done.landing, 303 if done.ok?

          status done.status
          show_sums(sums_page(error: done.errors.values.first))
        end

        app.helpers do
          def sums_page(error: nil)
            id = input.text_or_nil("sum")
            record = Gadwall::Calculators::Book.records[id]
            given = record ? record["inputs"].to_h { |each| [each["id"], input.text_or_nil(each["id"])] }.compact : {}
            jobs = workshop.summaries.open.map { |each| [each.number, each.name] }
            Pages::SumsPage.new(
              query: input.text("q")[0, MOST_LETTERS],
              id: id,
              given: given,
              jobs: jobs,
              taken: input.text_or_nil("taken"),
              units: preferences,
              refused: error
            )
          end

          # What the address of this very sum holds.
          def given_sum
            record = Gadwall::Calculators::Book.records[input.text("sum")] or return {}
            names = ["sum", "q", *record["inputs"].map { |each| each["id"] }]
            names.to_h { |name| [name, input.text_or_nil(name)] }.compact
          end

          # A sum that does not come out is shown with what was typed and what is wrong with it.
          def refused_sum(page)
            status 422
            show_sums(page)
          end

          def show_sums(page)
            return show(page) unless htmx?

            partial(page.record && !input.given?("find") ? "sums/_sum" : "sums/_list", page: page)
          end
        end
      end
    end
  end
end
