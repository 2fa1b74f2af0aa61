# frozen_string_literal: true

module Web
  module Guards
    # Refuses bodies that no form of ours can have, before anything reads them.
    class BodyLimit
      # most_bytes: of a body; larger: {pattern of a path => bytes}, where files are taken.
      def initialize(app, most_bytes, larger = {})
        @app = app
        @most_bytes = most_bytes
        @larger = larger
      end

      def call(env)
        most = @larger.find { |path, _| env["PATH_INFO"].to_s.match?(path) }&.last || @most_bytes
        refuse(env, most) if env["CONTENT_LENGTH"].to_i > most || chunked_too_long?(env, most)
        @app.call(env)
      end

      private

      # A body without a length: the server has spooled it by now, so its size can be asked.
      def chunked_too_long?(env, most)
        return false unless env["HTTP_TRANSFER_ENCODING"] && env["rack.input"]

        input = env["rack.input"]
        long = !input.read(most + 1).to_s.bytesize.between?(0, most)
        input.rewind if input.respond_to?(:rewind)
        long
      end

      # Nothing of the body is read any more.
      def refuse(env, most)
        env["rack.input"] = StringIO.new
        env["CONTENT_LENGTH"] = "0"
        env.delete("HTTP_TRANSFER_ENCODING")
        text = "That is too much for one form (the limit is #{most / 1_000_000} MB). Nothing was saved."
        env["gadwall.refusal"] ||= [413, "Too large", text]
      end
    end
  end
end
