# frozen_string_literal: true

require "logger"
require "securerandom"

module Web
  module Guards
    # One line for each request that failed or took long, and the trouble of those that broke, each with the request's
    # id. The id is told on the page, so that a person can name it.
    class RequestLog
      SLOW_S = 1.0

      def initialize(app, logger = Logger.new($stderr, progname: "gadwall", level: ENV.fetch("GADWALL_LOG", "info")))
        @app = app
        @logger = logger
      end

      def call(env)
        env["gadwall.request_id"] = SecureRandom.hex(4)
        env["gadwall.logger"] = @logger
        started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
        status, headers, body = @app.call(env)
        tell(env, status, Process.clock_gettime(Process::CLOCK_MONOTONIC) - started)
        [status, headers.merge("x-request-id" => env["gadwall.request_id"]), body]
      end

      private

      # The address is told without its query: what a person typed has no place in a log.
      def tell(env, status, seconds)
        line =
          "[#{env["gadwall.request_id"]}] " \
            "#{env["REQUEST_METHOD"]} #{env["PATH_INFO"].to_s[0, 200].inspect} #{status} " \
            "#{(seconds * 1000).round} ms"
        if status >= 500
          @logger.error(line)
        elsif seconds > SLOW_S
          @logger.warn(line)
        else
          @logger.debug(line)
        end
      end
    end
  end
end
