# frozen_string_literal: true

module Gadwall
  module Repair
    # Words of a plan, looked up by word or by pattern ("opens:*"). Grows while a plan is composed.
    class WordList
      # words: Array of String, in order.
      def initialize(words)
        @words = {}
        @by_verb = {}
        add(words)
      end

      # Adds words that are not there yet.
      def add(words)
        words.each do |word|
          next if @words.key?(word)

          @words[word] = true
          (@by_verb[word[0, word.index(":") || word.size]] ||= []) << word
        end
        self
      end

      # Does any word fit? pattern: a word, or its beginning before a star.
      def any?(pattern)
        return @words.key?(pattern) unless pattern.end_with?("*")

        verb(pattern).any? { |word| Vocabulary.fits?(pattern, word) }
      end

      # Words that fit one of the patterns, in the order of the patterns.
      def fitting(patterns)
        patterns
          .flat_map do |pattern|
            next [pattern].select { |word| @words.key?(word) } unless pattern.end_with?("*")

            verb(pattern).select { |word| Vocabulary.fits?(pattern, word) }
          end
          .uniq
      end

      # Words of a verb.
      def of(verb)
        @by_verb.fetch(verb, [])
      end

      private

      def verb(pattern)
        of(pattern[0, pattern.index(":") || pattern.size])
      end
    end
  end
end
