# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # A manufacturer's own number: four or six hexadecimal digits, five decimal ones, with a sub-code or without
    # ("5DF1", "480A1C", "01130-003"). What it means stands in the text; the shop's corrections remember it.
    class MakerWord
      include WithoutFailureType

      NUMBER = /(?:0x|\$)?(?:[0-9A-F]{4}|[0-9A-F]{6}|\d{5})/i
      SUB = %r{[-:./ ][0-9A-Z]{1,4}}i
      FORM = /\A(#{NUMBER})(#{SUB})?\z/
      # At the head of a line: a number with at least one digit, and something behind it.
      HEAD = /\A\s*(?=\S*\d)(#{NUMBER})(#{SUB}(?=[\s,;]|\z))?(?=[\s,;:]|\z)/

      attr_reader :text

      # Is the text such a number?
      def self.looks_like?(text)
        text.to_s.strip.match?(FORM) && text.to_s.match?(/\d/)
      end

      # text: as it stands in the scan. Returns a MakerWord.
      def self.parse(text)
        new(text.to_s.strip.delete_prefix("$").sub(/\A0x/i, "").upcase)
      end

      def initialize(text)
        @text = text
        freeze
      end
    end
  end
end
