# frozen_string_literal: true

module Gadwall
  module Repair
    # One record of data/repairs/rules: when it is asked for, what step it makes, and what that step must follow or
    # precede. Frozen.
    class Rule
      # In the order of the work, unless a rule says otherwise.
      PHASES = %w[
        read
        match
        save
        make_safe
        open
        work
        close
        energy_back
        fluid
        write
        clear
        learn
        end_test
        scan
        drive
        hand_back
      ].freeze

      attr_reader :id, :phase, :does, :after, :before, :record

      # record: Hash of the file.
      def initialize(record)
        @record = record
        @id = record["id"]
        @phase = record["phase"]
        @does = record["does"]
        @after = record["after"] || []
        @before = record["before"] || []
        @for, @with, @without = %w[for with without].map { |name| record[name] || [] }
        freeze
      end

      # Does it stand once for each work that asks for it, instead of once in the plan?
      def each_work?
        record["each"] == "work"
      end

      # States of the vehicle in which it is needless at its turn: Array of ids.
      def unless_so
        record["unless_so"] || []
      end

      # Works that ask for it; where nothing is repaired, only the rules of that option. works: Array of Work.
      def works(works)
        works.select do |work|
          next false if Touches::NOTHING.include?(work.option) && !record["options"]

          %w[options repairs families].all? { |name| record[name].nil? || record[name].include?(answer(work, name)) }
        end
      end

      # Is it asked for? words: WordList; sheet: Vehicle::Sheet.
      def asked?(words, sheet)
        @for.any? { |each| words.any?(each) } && @with.all? { |each| words.any?(each) } &&
          @without.none? { |each| words.any?(each) } && built?(sheet)
      end

      # Does the vehicle have what it speaks of?
      def built?(sheet)
        sheet.fits?(record["vehicle"])
      end

      # The words that ask for it.
      def because(words)
        words.fitting(@for)
      end

      # What it does, for these words: "lifts:@lifts" stands for all that is lifted; where the rule is asked for by some
      # of that verb only, for those.
      def done(words, work = nil)
        does
          .flat_map do |each|
            next each.sub("{module}", Touches::MODULES.fetch(work.module, "other_module")) if each.include?("{module}")
            next each unless each.include?(":@")

            verb, source = each.split(":@")
            objects(words, source).map { |object| "#{verb}:#{object}" }
          end
          .uniq
      end

      private

      def answer(work, name)
        { "options" => work.option, "repairs" => work.repair, "families" => work.family }.fetch(name)
      end

      def objects(words, verb)
        own = because(words).select { |word| word.start_with?("#{verb}:") }
        (own.empty? ? words.of(verb) : own).map { |word| word.split(":").last }
      end
    end
  end
end
