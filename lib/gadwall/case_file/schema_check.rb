# frozen_string_literal: true

require "json"

module Gadwall
  class CaseFile
    # Holds data against a JSON Schema and tells the first fault in one sentence.
    class SchemaCheck
      # The check for one schema file, compiled once.
      def self.for(path)
        @checks ||= {}
        @checks[path] ||= new(path)
      end

      def initialize(path)
        require "json_schemer"
        @schemer = JSONSchemer.schema(JSON.parse(File.read(path)))
      end

      # Raises InputError.
      def check(data)
        error = @schemer.validate(data).min_by { |each| -each["data_pointer"].count("/") }
        return unless error

        raise InputError.new(
                field: field(error["data_pointer"]),
                given: given(error),
                expected: expected(error),
                fix: "See docs/formats/case.md."
              )
      end

      private

      # "/evidence/2/test" is "evidence 3, test": people count from one.
      def field(pointer)
        parts = pointer.split("/").drop(1).map { |part| part.match?(/\A\d+\z/) ? (part.to_i + 1).to_s : part }
        parts.empty? ? "case" : parts.join(" ").sub(/\A(\w+ \d+) /, '\1, ')
      end

      def given(error)
        return "#{error.dig("details", "missing_keys").join(", ")} missing" if error["type"] == "required"

        error["data"].is_a?(Enumerable) ? error["type"] : error["data"]
      end

      def expected(error)
        schema = error["schema"]
        case error["type"]
        when "required"
          "the fields #{schema["required"].join(", ")}"
        when "enum"
          "one of #{schema["enum"].join(", ")}"
        when "const"
          schema["const"].inspect
        when "schema"
          "a field that the format knows"
        else
          schema["description"] || schema["type"]&.to_s || "what the format asks for"
        end
      end
    end
  end
end
