# frozen_string_literal: true

module Gadwall
  # Root of every error the core raises on purpose. One subclass for each reaction of the caller.
  class Error < StandardError
  end

  # Something a person typed or a file held cannot be used. Names the field, what was given, and what would do.
  # `field` is a String; `given` anything; `expected` a String; `fix` a String or nil.
  class InputError < Error
    attr_reader :field, :given, :expected, :fix

    def initialize(field:, given:, expected:, fix: nil)
      @field = field
      @given = given
      @expected = expected
      @fix = fix
      super(["#{field}: #{said(given)}.", "#{asked} #{expected}.", fix].compact.join(" "))
    end

    private

    # Fields that a file or another program filled, not a hand.
    READ = /\A(?:line|evidence|case|file|frame|column|vehicle|joints|sections|values|wires|--)/

    def asked
      field.match?(READ) ? "Expected" : "Enter"
    end

    def said(given)
      text = given.to_s.dup.force_encoding("UTF-8").scrub("?")
      return "empty" if text.strip.empty?

      "'#{text.length > 60 ? "#{text[0, 57]}..." : text}' is not valid"
    end
  end

  # A name that the system at hand does not know (a test, a fault, a circuit). Suggests the nearest known ones.
  class UnknownNameError < InputError
    # A longer text is no misspelt name; comparing it would take seconds.
    MOST_LETTERS = 100

    attr_reader :known

    def initialize(field:, given:, known:, fix: nil)
      @known = known
      near = given.to_s.length > MOST_LETTERS ? [] : DidYouMean::SpellChecker.new(dictionary: known).correct(given.to_s)
      near = near.empty? ? known.first(8) : near.first(3)
      super(
        field: field,
        given: given,
        expected: "one of #{known.size} known names, such as #{near.join(", ")}",
        fix: fix
      )
    end
  end

  # A record in data/ is broken. Raised at start, so that a wrong file never reaches a job.
  class KnowledgeError < Error
    def initialize(file:, record:, key:, problem:)
      super("#{file}: record '#{record}', key '#{key}': #{problem}")
    end
  end

  # A network that cannot be solved: two ideal voltage sources in parallel, a loop of ideal sources.
  class SingularNetworkError < Error
  end
end
