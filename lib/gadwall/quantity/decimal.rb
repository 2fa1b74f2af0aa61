# frozen_string_literal: true

require "json"

module Gadwall
  module Quantity
    # Numbers as they come in, from forms and files: finite, or none at all.
    module Decimal
      # No instrument and no vehicle has a larger one.
      MOST = 1e15

      # text: "12.5", "12,5"; anything else that prints as one. Returns a finite Float, or nil.
      def self.read(text)
        value = Float(text.to_s.strip.tr(",", "."), exception: false)
        value if value&.finite? && value.abs <= MOST
      end

      # Parses JSON whose numbers are all finite. text: as it came; field: names it in errors; fix: what helps, or nil;
      # nesting: how deep it may go. Returns the data. Raises InputError with the line and column.
      def self.json(text, field:, fix: nil, nesting: 40)
        data = JSON.parse(utf8(text, field, fix), max_nesting: nesting)
        return data unless endless?(data)

        raise InputError.new(
                field: field,
                given: "a number that is not finite",
                expected: "numbers up to 1e15",
                fix: fix
              )
      rescue JSON::ParserError, EncodingError => error
        said = error.message.dup.force_encoding("UTF-8").scrub("?")
        given = said[/line \d+ column \d+/] || text.to_s.dup.force_encoding("UTF-8").scrub("?")[0, 30]
        raise InputError.new(field: field, given: given, expected: "a JSON document", fix: fix)
      end

      # The text as UTF-8. Raises InputError where it is none.
      def self.utf8(text, field, fix)
        given = text.to_s.dup.force_encoding("UTF-8")
        return given if given.valid_encoding?

        raise InputError.new(
                field: field,
                given: "bytes that are no text",
                expected: "a JSON document in UTF-8",
                fix: fix
              )
      end

      # Is there a number in it that is not finite?
      def self.endless?(data)
        case data
        when Float
          !data.finite?
        when Hash
          data.any? { |_, value| endless?(value) }
        when Array
          data.any? { |value| endless?(value) }
        else
          false
        end
      end
      private_class_method :endless?, :utf8
    end
  end
end
