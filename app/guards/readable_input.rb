# frozen_string_literal: true

module Web
  module Guards
    # Reads path, query and form once, and refuses what cannot be read: bytes that are no UTF-8, NUL, more than 4096
    # fields, deep nesting, a broken multipart body, an unknown charset. The one place that does.
    class ReadableInput
      READ_ERRORS = [
        ArgumentError,
        RangeError,
        EOFError,
        IOError,
        EncodingError,
        TypeError,
        Rack::QueryParser::ParameterTypeError,
        Rack::QueryParser::InvalidParameterError,
        Rack::QueryParser::QueryLimitError,
        Rack::QueryParser::ParamsTooDeepError,
        Rack::Multipart::Error
      ].freeze

      def initialize(app)
        @app = app
      end

      def call(env)
        trouble = env["gadwall.refusal"] ? nil : trouble(env)
        refuse(env, trouble) if trouble
        @app.call(env)
      end

      private

      # What cannot be read, in words; nil where all can.
      def trouble(env)
        unless clean?(Rack::Utils.unescape_path(env["PATH_INFO"].to_s))
          return "The address holds bytes that are no text."
        end

        params = Rack::Request.new(env).params
        clean?(params) ? nil : "A field holds bytes that are no text."
      rescue *READ_ERRORS
        "The form cannot be read: a broken body, too many fields, or a kind of text that is not known."
      end

      def clean?(value)
        case value
        when Hash
          value.key?(:tempfile) ? clean?(value[:filename].to_s) : value.all? { |key, each| clean?(key) && clean?(each) }
        when Array
          value.all? { |each| clean?(each) }
        when String
          text?(value)
        else
          true
        end
      end

      def text?(value)
        utf8 = value.dup.force_encoding(Encoding::UTF_8)
        utf8.valid_encoding? && !utf8.include?("\0")
      end

      # What could not be read is taken away, so that the page which says so can be made.
      def refuse(env, trouble)
        %w[
          rack.request.form_hash
          rack.request.form_input
          rack.request.form_vars
          rack.request.form_pairs
          rack.request.query_hash
          rack.request.query_string
          rack.request.form_error
        ].each { |key| env.delete(key) }
        env["rack.input"] = StringIO.new
        env["CONTENT_LENGTH"] = "0"
        env["QUERY_STRING"] = ""
        env["PATH_INFO"] = "/" unless clean?(Rack::Utils.unescape_path(env["PATH_INFO"].to_s))
        env.delete("CONTENT_TYPE")
        env["gadwall.refusal"] = [400, "Cannot be read", "#{trouble} Nothing was saved. Go back and enter it again."]
      rescue *READ_ERRORS
        env["PATH_INFO"] = "/"
        env["gadwall.refusal"] = [400, "Cannot be read", "The address cannot be read. Nothing was saved."]
      end
    end
  end
end
