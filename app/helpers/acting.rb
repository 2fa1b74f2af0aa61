# frozen_string_literal: true

module Web
  module Helpers
    # From a request to an act of the core, and on to the page that it leads to.
    module Acting
      def input
        @input ||= Input.new(params)
      end

      # The name of the person at the bench, or nil while nobody said it on this browser.
      def person
        session[:person]
      end

      # The job that the address names: Gadwall::Job::Dossier. Raises Store::NotFound.
      def dossier
        @dossier ||= workshop.dossier(params["number"])
      end

      # Does an act to the job of the address. act: class of Gadwall::Job::Acts; values: for it. The block gets the job
      # after it and says where the page goes on; origin: where it comes from, where it is no hand. Returns a
      # Workshop::Performed.
      def perform(act, values = {}, origin: nil, &block)
        more = { by: person, token: form_token, seen: input.seen, origin: origin }
        done = workshop.perform(params["number"], act, values, **more, &block)
        @dossier = done.dossier
        done
      end

      # The token of this form with a digest of what it holds, or nil where it has none.
      def form_token
        input.token && FormToken.of(input.token, request.path_info, params)
      end

      # Goes on where the act leads; where it was refused, the block shows the page again with the errors. Where others
      # wrote meanwhile, everything that was entered stands on a page of its own, to be sent again.
      def finish(done)
        redirect done.landing, 303 if done.ok?
        return outdated(done) if done.errors.key?("conflict")

        status done.status
        yield done
      end

      # What was entered on a page that is no longer true. done: Workshop::Performed.
      def outdated(done)
        resume(done.errors.fetch("conflict"), 409, seen: done.dossier.last_seq, fresh: true)
      end

      def now
        workshop.now
      end

      # Renders a page object with the view of its name.
      def show(page)
        erb page.view, locals: { page: page }
      end
    end
  end
end
