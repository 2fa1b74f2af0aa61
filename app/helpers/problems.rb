# frozen_string_literal: true

module Web
  module Helpers
    # Who may go on: readable requests from our own pages, by a person who is known; and the pages for those that may
    # not.
    module Problems
      # Before every request. A lost session or a name not yet given keeps what was typed and asks for it.
      def admit
        halt problem(*env["gadwall.refusal"]) if env["gadwall.refusal"]
        redirect "/start", 303 if to_be_begun?
        return unless request.post? # nothing but a post writes; other methods have no address

        halt resume("Your session has ended. Sign again: what you entered is kept here.", 403) unless own_form?
        take_person
        return if person || %w[/person /start].include?(request.path_info)

        halt resume("Who is at the bench? Every entry carries a name.", 422)
      end

      # Is it an empty workshop that nobody has filled in?
      def to_be_begun?
        !begun? && request.path_info != "/start"
      end

      # Has the workshop what it needs to begin?
      def begun?
        !settings.first_start || !settings.workshop.card.nil?
      end

      # A page that says what is wrong. status: of HTTP.
      def problem(status, title, text)
        status status
        headers "HX-Retarget" => "#main", "HX-Reswap" => "innerHTML" if htmx?
        page = Pages::ProblemPage.new(title, text, request_id: env["gadwall.request_id"])
        body = htmx? ? partial("problem", page: page) : erb(:problem, locals: { page: page })
        [status, body]
      end

      # A form that was not taken, with all that was entered, to be sent again. seen: seq of the job's last entry by
      # now, or nil; fresh: does it get a token of its own?
      def resume(text, status, seen: nil, fresh: false)
        status status
        headers "HX-Retarget" => "#main", "HX-Reswap" => "innerHTML" if htmx?
        page = Pages::ResumePage.new(text, request.path_info, input.typed, person: person, seen: seen, fresh: fresh)
        body = htmx? ? partial("resume", page: page) : erb(:resume, locals: { page: page })
        [status, body]
      end

      private

      # Does the form carry the token of this session?
      def own_form?
        Rack::Protection::AuthenticityToken.new(nil, allow_if: ->(_) { false }).accepts?(env)
      end

      # A form may bring the name along, where it was asked for.
      def take_person
        name = Gadwall::Signature.of(input.text("person")) or return
        session[:person] = name[0, 60] unless request.path_info == "/person"
      end
    end
  end
end
