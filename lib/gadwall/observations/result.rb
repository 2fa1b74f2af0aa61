# frozen_string_literal: true

module Gadwall
  module Observations
    # What was typed or tapped for a test, as a core value.
    module Result
      GOOD_WORDS = %w[good ok pass passed sound normal].freeze

      # Returns a Quantity::Reading for a number test, an outcome id for the others. Raises InputError.
      def self.of(test, typed)
        return Quantity::ReadingText.parse(typed, unit: test.unit) if test.numeric?

        outcome(test, typed.to_s.strip)
      end

      # By id, by the words on the screen now or earlier, or by a plain word for 'as it should be'.
      def self.outcome(test, typed)
        return typed if test.outcomes.key?(typed)

        found = test.outcomes.find { |_, words| words.casecmp?(typed) }&.first
        found ||= earlier(test, typed)
        found ||= (%w[good even] & test.outcomes.keys).first if GOOD_WORDS.include?(typed.downcase)
        found or
          raise InputError.new(
                  field: "result",
                  given: typed,
                  expected: "one of #{test.outcomes.map { |id, words| "#{id} (#{words})" }.join(", ")}"
                )
      end

      # What these words meant before they were put better; nil for words that nobody used.
      def self.earlier(test, typed)
        words = Knowledge.catalogue.earlier_words[test.record["id"]] || {}
        id = words.find { |each, _| each.casecmp?(typed) }&.last
        id if test.outcomes.key?(id)
      end
      private_class_method :outcome, :earlier
    end
  end
end
