# frozen_string_literal: true

module Web
  # Refuses bodies that no form of ours can have, before anything reads them.
  class BodyLimit
    def initialize(app, most_bytes)
      @app = app
      @most_bytes = most_bytes
    end

    def call(env)
      return refuse if env["CONTENT_LENGTH"].to_i > @most_bytes || chunked_too_long?(env)

      @app.call(env)
    end

    private

    # A body without a length: the server has spooled it by now, so its size can be asked.
    def chunked_too_long?(env)
      return false unless env["HTTP_TRANSFER_ENCODING"] && env["rack.input"]

      input = env["rack.input"]
      long = !input.read(@most_bytes + 1).to_s.bytesize.between?(0, @most_bytes)
      input.rewind if input.respond_to?(:rewind)
      long
    end

    def refuse
      text = "That is too much for one form (the limit is #{@most_bytes / 1_000_000} MB). Nothing was written.\n"
      [413, { "content-type" => "text/plain; charset=utf-8", "connection" => "close" }, [text]]
    end
  end
end
