# frozen_string_literal: true

module Gadwall
  module Repair
    # The closed vocabulary of plans (data/repairs/vocabulary.yml): "verb:object". Beside it stand the words that say
    # what kind of plan it is (SPECIAL).
    class Vocabulary
      # always: every plan; volt_12, volt_24: the vehicle; nothing_done: nothing is repaired; watched: the fault came
      # and went, or is left; temporary: the repair is.
      SPECIAL = %w[always volt_12 volt_24 nothing_done watched temporary].freeze
      # Verbs of what hands touch, or took out for a test before. The others say only what a step does.
      TOUCHES = %w[lifts wheel_off hangs unplugs opens near off_bus renews mends disturbs left_out].freeze

      # Does a word fit a pattern: the word itself, or its beginning before a star?
      def self.fits?(pattern, word)
        pattern.end_with?("*") ? word.start_with?(pattern.chop) : pattern == word
      end

      # The same where the star may stand anywhere ("unplugs:*_module").
      def self.fits_anywhere?(pattern, word)
        pattern.include?("*") ? File.fnmatch(pattern, word) : pattern == word
      end

      # records: of data/repairs/vocabulary.yml, by id.
      def initialize(records)
        @objects = records.transform_values { |row| row["objects"] }.freeze
        freeze
      end

      # Is it a word of the vocabulary? word: "verb:object".
      def word?(word)
        verb, object = word.split(":", 2)
        @objects.fetch(verb, []).include?(object)
      end

      # Does a pattern ("opens:*") match any word of it, or is it special?
      def pattern?(pattern)
        return SPECIAL.include?(pattern) unless pattern.include?(":")

        verb, object = pattern.split(":", 2)
        @objects.fetch(verb, []).any? { |each| Vocabulary.fits?(object, each) }
      end

      # Is it said of hands, or special, so that no step of a plan can add it?
      def given?(pattern)
        SPECIAL.include?(pattern) || TOUCHES.include?(pattern.split(":").first)
      end

      # Every word.
      def words
        @objects.flat_map { |verb, objects| objects.map { |object| "#{verb}:#{object}" } }
      end
    end
  end
end
