# frozen_string_literal: true

module Web
  module Helpers
    # Hidden fields of every form, and the place of an error beside its field.
    module Forms
      # The session's token, a token of this very form (a repeated post writes nothing twice), and what the page had
      # seen.
      def form_guards(file = nil)
        erb :"shared/_guards",
            layout: false,
            locals: {
              csrf: Rack::Protection::AuthenticityToken.token(session),
              form_token: SecureRandom.hex(16),
              seen: file&.last_seq
            }
      end

      def partial(name, **locals)
        erb :"#{name}", layout: false, locals: locals
      end

      def htmx?
        env["HTTP_HX_REQUEST"] == "true"
      end

      def theme
        %w[light dark].include?(request.cookies["theme"]) ? request.cookies["theme"] : nil
      end

      def error_for(errors, field)
        text = errors && errors[field] or return ""
        partial("shared/_error", field: field, text: text)
      end
    end
  end
end
