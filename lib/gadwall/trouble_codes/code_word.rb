# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # A trouble code as text and as bytes (SAE J2012 / ISO 15031-6; from memory).
    # Bits 15-14 are the letter (0 P, 1 C, 2 B, 3 U), bits 13-12 the first digit, then three hexadecimal digits; a third
    # byte, where there is one, is the failure type.
    class CodeWord
      LETTERS = %w[P C B U].freeze
      FORM = /\A([PCBU])([0-3])([0-9A-F]{3})(?:[\s\-:.]?([0-9A-F]{2}))?\z/

      attr_reader :text, :failure_type

      # "C0034-13", "c003413", "U0121". Raises InputError.
      def self.parse(text, field: "code")
        match = FORM.match(text.to_s.strip.upcase)
        unless match
          raise InputError.new(
                  field: field,
                  given: text,
                  expected:
                    "a letter P, C, B or U, a digit 0 to 3 and three hexadecimal digits, such as C0034 or C0034-13",
                  fix: "A manufacturer's own number goes into the text of the DTC."
                )
        end
        new("#{match[1]}#{match[2]}#{match[3]}", match[4])
      end

      # bytes: two or three Integers 0..255. Raises InputError.
      def self.from_bytes(bytes)
        unless [2, 3].include?(bytes.size) && bytes.all? { |byte| byte.is_a?(Integer) && byte.between?(0, 255) }
          raise InputError.new(field: "bytes", given: bytes.inspect, expected: "two or three bytes from 0 to 255")
        end
        high, low, type = bytes
        text =
          format(
            "%<letter>s%<digit>d%<rest>03X",
            letter: LETTERS[high >> 6],
            digit: (high >> 4) & 3,
            rest: ((high & 0xF) << 8) | low
          )
        new(text, type && format("%02X", type))
      end

      def initialize(text, failure_type = nil)
        @text = text
        @failure_type = failure_type
        freeze
      end

      # Two bytes, or three with a failure type.
      def bytes
        word = (LETTERS.index(text[0]) << 14) | (text[1].to_i << 12) | text[2..].to_i(16)
        [word >> 8, word & 0xFF, *failure_type&.to_i(16)]
      end

      # "C0031-13", or "C0031" without a failure type.
      def to_s
        [text, failure_type].compact.join("-")
      end

      # Equal by what it says.
      def ==(other)
        other.is_a?(CodeWord) && other.to_s == to_s
      end
      alias eql? ==

      # As `==`.
      def hash
        to_s.hash
      end
    end
  end
end
