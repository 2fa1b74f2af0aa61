# frozen_string_literal: true

require "digest"

module Gadwall
  module Repair
    # All rules of data/repairs/rules, checked when they are loaded: words of the vocabulary only, no order that runs in
    # a circle, nothing asked for that no step can give.
    class RuleBase
      FOLDER = "repairs/rules"

      # The rules of a catalogue, checked once. catalogue: Knowledge::Catalogue. Raises KnowledgeError.
      def self.of(catalogue)
        @bases ||= {}.compare_by_identity
        @bases[catalogue] ||= new(catalogue.rules, Vocabulary.new(catalogue.plan_words), catalogue.cautions.keys)
      end

      attr_reader :rules, :vocabulary

      # records: Array of Hash; vocabulary: Vocabulary; cautions: ids of data/tests/cautions.yml. Raises KnowledgeError
      # that names the rule.
      def initialize(records, vocabulary, cautions)
        @rules = in_order(records).map { |record| Rule.new(record) }.freeze
        @by_id = @rules.to_h { |rule| [rule.id, rule] }.freeze
        @vocabulary = vocabulary
        @cautions = cautions
        @ids = @rules.map(&:id)
        @places = @ids.each_with_index.to_h.freeze
        @every_word = @rules.to_h { |rule| [rule.id, words_of(rule)] }.freeze
        @done = @every_word.values.flatten.uniq.freeze
        rules.each { |rule| check(rule) }
        Ordering
          .circle(edges)
          &.then { |ids| fail!(ids.join(", "), "after", "these rules follow one another in a circle") }
        @version = Digest::SHA256.hexdigest(records.inspect)[0, 10]
        freeze
      end

      # Changes with every change of a rule.
      attr_reader :version

      # Where a rule stands among all. rule: Rule.
      def place(rule)
        @places.fetch(rule.id)
      end

      # id: of a rule. Returns a Rule or nil.
      def [](id)
        @by_id[id]
      end

      private

      # By phase; within one as they stand in their files.
      def in_order(records)
        phases = Rule::PHASES
        records.sort_by.with_index { |row, i| [phases.index(row["phase"]) || phases.size, i] }
      end

      # Order of all rules at once, whatever asks for them: {id => [ids that it follows]}.
      def edges
        Ordering.followers(
          rules.map { |rule| Ordering::Node.new(rule.id, rule.id, every_word(rule), rule.after, rule.before) }
        )
      end

      # All that a rule can do.
      def every_word(rule)
        @every_word.fetch(rule.id)
      end

      def words_of(rule)
        rule.does.flat_map do |each|
          verb, object = each.split(":", 2)
          object.match?(/[@{]/) ? vocabulary.words.select { |word| word.start_with?("#{verb}:") } : [each]
        end
      end

      def check(rule)
        unless Rule::PHASES.include?(rule.phase)
          fail!(rule.id, "phase", "is #{rule.phase}, expected one of #{Rule::PHASES.join(", ")}")
        end
        unless rule.each_work? || rule.record["for"]
          fail!(rule.id, "for", "is missing: say which words ask for it, or 'each: work'")
        end
        check_words(rule)
        check_order(rule)
        (rule.record["asks"] || []).each { |ask| check_ask(rule, ask) }
      end

      # What asks for it, and what it does.
      def check_words(rule)
        record = rule.record
        odd = patterns(record).find { |each| !vocabulary.pattern?(each) }
        fail!(rule.id, "for", "'#{odd}' is no word of the vocabulary") if odd
        unmade = unmade(record).first
        fail!(rule.id, "for", "'#{unmade}' is touched by no row and done by no step") if unmade
        changing = (record["without"] || []).find { |each| !vocabulary.given?(each) }
        fail!(rule.id, "without", "'#{changing}' depends on other steps") if changing
        unknown = every_word(rule).find { |each| !vocabulary.word?(each) }
        fail!(rule.id, "does", "'#{unknown}' is no word of the vocabulary") if unknown
      end

      def check_order(rule)
        nowhere = (rule.after + rule.before).find { |each| !known?(each) }
        fail!(rule.id, "after", "'#{nowhere}' is no rule and no word") if nowhere
        caution = (rule.record["cautions"] || []).find { |each| !@cautions.include?(each) }
        fail!(rule.id, "cautions", "'#{caution}' is no caution") if caution
      end

      def check_ask(rule, ask)
        fail!(rule.id, "asks", "'#{ask["id"]}' has low above high") unless ask["low"] < ask["high"]
        others = rule.record["asks"].map { |each| each["id"] }
        missing = ask.values_at("near", "same_as", "not_below").compact - others
        fail!(rule.id, "asks", "'#{missing.first}' is not asked for") if missing.any?
      end

      def patterns(record)
        %w[for with without].flat_map { |name| record[name] || [] }
      end

      # Words that ask for a rule and that nothing can ever say.
      def unmade(record)
        ((record["for"] || []) + (record["with"] || [])).reject do |each|
          vocabulary.given?(each) || @done.any? { |word| File.fnmatch(each, word) }
        end
      end

      def known?(reference)
        reference.include?(":") ? vocabulary.pattern?(reference) : @ids.include?(reference)
      end

      def fail!(rule, key, problem)
        raise KnowledgeError.new(file: "data/#{FOLDER}", record: rule, key: key, problem: problem)
      end
    end
  end
end
