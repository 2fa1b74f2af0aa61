# frozen_string_literal: true

require "uri"

module Web
  module Guards
    # Serves loopback names and the configured ones only, and takes requests only from pages of its own: a page
    # elsewhere must neither read nor write here, by whatever name it reaches this machine.
    class HostGuard
      LOOPBACK = %w[localhost 127.0.0.1 ::1].freeze

      # hosts: names or addresses that are served beside loopback.
      def initialize(app, hosts = [])
        @app = app
        @hosts = (LOOPBACK + hosts).map(&:downcase).uniq
      end

      def call(env)
        env["gadwall.refusal"] = refusal(env)
        @app.call(env)
      end

      private

      # [status, title, text] for the page, or nil.
      def refusal(env)
        host = name_of(env["HTTP_HOST"] || env["SERVER_NAME"])
        unless @hosts.include?(host)
          return [
            421,
            "Unknown host",
            "This server answers to #{@hosts.join(", ")} only. Set HOST to serve another name."
          ]
        end

        unless own_origin?(env)
          [403, "Foreign page", "This request came from a page of another site. Nothing was saved."]
        end
      end

      def own_origin?(env)
        origin = env["HTTP_ORIGIN"]
        return true if origin.nil?

        origin == "#{env["rack.url_scheme"]}://#{env["HTTP_HOST"]}"
      end

      # "[::1]:9292" and "localhost:9292" without brackets and port.
      def name_of(text)
        if text.to_s.downcase.strip[/\A(?:\[([^\]]+)\]|([^:]+))(?::\d{1,5})?\z/]
          Regexp.last_match(1) || Regexp.last_match(2)
        else
          ""
        end
      end
    end
  end
end
