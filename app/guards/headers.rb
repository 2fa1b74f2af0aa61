# frozen_string_literal: true

module Web
  module Guards
    # The headers of every answer, whoever gives it: pages, files, and the guards' own refusals.
    class Headers
      POLICY =
        "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self'; " \
          "connect-src 'self'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'"
      ALWAYS = {
        "content-security-policy" => POLICY,
        "x-content-type-options" => "nosniff",
        "referrer-policy" => "same-origin"
      }.freeze

      def initialize(app)
        @app = app
      end

      def call(env)
        status, headers, body = @app.call(env)
        added =
          if headers.keys.any? { |name| name.casecmp?("cache-control") }
            ALWAYS
          else
            ALWAYS.merge("cache-control" => "no-store")
          end
        [status, headers.merge(added), body]
      end
    end
  end
end
