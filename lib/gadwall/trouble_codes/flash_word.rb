# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # A code counted from a flashing lamp: "FLASH 12". What it means is the maker's own; the shop's corrections remember
    # it.
    class FlashWord
      include WithoutFailureType

      FORM = /\Aflash[\s:.-]*(\d{1,4})\z/i

      attr_reader :number

      # Does the text begin as a flash code does?
      def self.looks_like?(text)
        text.to_s.match?(/\Aflash\b/i)
      end

      # Raises InputError.
      def self.parse(text, field: "code")
        number = FORM.match(text.to_s.strip)&.captures&.first
        return new(number) if number

        raise InputError.new(field: field, given: text, expected: "the flashes counted, such as FLASH 12")
      end

      def initialize(number)
        @number = number
        freeze
      end

      # "FLASH 12".
      def text
        "FLASH #{number}"
      end
    end
  end
end
