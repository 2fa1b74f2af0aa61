# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # The status byte of a code (ISO 14229-1, Annex D; from memory).
    class StatusByte
      BITS = %w[
        testFailed
        testFailedThisOperationCycle
        pendingDTC
        confirmedDTC
        testNotCompletedSinceLastClear
        testFailedSinceLastClear
        testNotCompletedThisOperationCycle
        warningIndicatorRequested
      ].freeze

      attr_reader :value

      # text: two hexadecimal digits. Raises InputError.
      def self.parse(text, field: "status")
        unless text.to_s.strip.match?(/\A(?:0x)?[0-9A-Fa-f]{2}\z/)
          raise InputError.new(
                  field: field,
                  given: text,
                  expected: "a status byte of two hexadecimal digits, such as 2F, or one of #{WORDS.join(", ")}"
                )
        end
        new(text.strip.delete_prefix("0x").to_i(16))
      end

      WORDS = %w[current pending history not_tested passed].freeze

      # A word of WORDS, or read from a byte. nil stays nil.
      def self.word(text, field: "status")
        return nil if text.nil? || text.to_s.strip.empty?
        return text.to_s.downcase if WORDS.include?(text.to_s.downcase)

        parse(text, field: field).word
      end

      def initialize(value)
        @value = value
        freeze
      end

      # Names of the bits that are set (ISO 14229-1, from memory).
      def set
        BITS.each_with_index.select { |_, bit| value[bit] == 1 }.map(&:first)
      end

      # Present now; failed lately but not confirmed; remembered; not tested since the codes were cleared, or not in
      # this cycle, which is neither a fault nor a pass; or tested and good.
      def word
        return "current" if value[0] == 1
        return value[3] == 1 ? "history" : "pending" if value[2] == 1
        return "history" if value[3] == 1

        completed? ? "passed" : "not_tested"
      end

      # Did its monitor run since the last erasure, and in this operation cycle?
      def completed?
        value[4].zero? && value[6].zero?
      end
    end
  end
end
