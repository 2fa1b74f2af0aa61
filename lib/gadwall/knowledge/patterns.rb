# frozen_string_literal: true

module Gadwall
  module Knowledge
    # The words by which a text is recognised, as a record of data/ lists them: regular expressions, small and large
    # letters alike.
    #
    # patterns: one of them must fit; all_of: lists, of each of which one must fit; unless: none may fit.
    class Patterns
      # record: a Hash with any of the keys above. Returns a frozen Patterns. Raises RegexpError for a pattern that is
      # none.
      def self.of(record)
        new(patterns: record["patterns"], all_of: record["all_of"], none_of: record["unless"])
      end

      # Letters of the longest list, so that the more telling of two records can go first.
      attr_reader :length

      # prefix: what each pattern must begin with, such as "\\b".
      def initialize(patterns: nil, all_of: nil, none_of: nil, prefix: "")
        lists = [patterns, *all_of].compact
        @wanted = lists.map { |list| any(list, prefix) }.freeze
        @unwanted = none_of && any(none_of, prefix)
        @length = lists.map { |list| list.join("|").length }.max.to_i
        freeze
      end

      # Is this the text that the record means? A record without patterns means none.
      def match?(text)
        @wanted.any? && @wanted.all? { |pattern| text.match?(pattern) } && !(@unwanted && text.match?(@unwanted))
      end

      private

      def any(list, prefix)
        Regexp.new("#{prefix}(?:#{list.join("|")})", Regexp::IGNORECASE)
      end
    end
  end
end
