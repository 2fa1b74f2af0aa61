# frozen_string_literal: true

module Web
  module Helpers
    # Hidden fields of every form, and the place of an error beside its field.
    module Forms
      # The session's token, a token of this very form (a repeated post writes nothing twice), and what the page had
      # seen.
      def form_guards(page = nil, form_token: nil)
        partial("shared/_guards", tokens: form_token ? tokens(form_token) : hole("guards"), seen: page&.seen)
      end

      # What of it is of one form and one session alone.
      def tokens(form_token = SecureRandom.hex(16))
        partial("shared/_tokens", csrf: session_token, form_token: form_token)
      end

      # One for all forms of a page.
      def session_token
        @session_token ||= Rack::Protection::AuthenticityToken.token(session)
      end

      def partial(name, **locals)
        erb :"#{name}", layout: false, locals: locals
      end

      def htmx?
        env["HTTP_HX_REQUEST"] == "true"
      end

      def theme
        %w[light dark].find { |name| name == request.cookies["theme"] }
      end

      # errors: {field => sentence}.
      def error_for(errors, field)
        text = errors && errors[field] or return ""
        partial("shared/_error", field: field, text: units(text))
      end
    end
  end
end
