# frozen_string_literal: true

module Gadwall
  module Training
    # Many exercises drawn by seed, solved through the instruments alone: by advice, and by one who tests at random.
    class Study
      RANDOM_EVERY = 3 # the random tester does every third

      # One exercise. level; nothing: was nothing wrong?; faults: how many; right, condemned; tests, minutes; guessed:
      # was it right by tests at random, or nil where nobody tried.
      Row =
        Struct.new(:seed, :level, :nothing, :faults, :right, :condemned, :tests, :minutes, :guessed, keyword_init: true)

      def initialize(models = Vehicle::ModelCache.new)
        @models = models
      end

      # seed: Integer. Returns Row.
      def run(seed)
        exercise = Drawn.exercise(1 + (seed % 4), seed)
        solved = Solver.new(exercise, models: @models).solve
        guessed = (Solver.new(exercise, models: @models).solve(strategy: "random").right if (seed % RANDOM_EVERY).zero?)
        Row.new(
          seed: seed,
          level: exercise.level,
          nothing: exercise.faults.empty?,
          faults: exercise.faults.size,
          right: solved.right,
          condemned: solved.condemned,
          tests: solved.steps.size,
          minutes: solved.minutes,
          guessed: guessed
        ).freeze
      end

      # rows: Array of Row. Returns a Markdown table with the figures under it.
      def self.table(rows)
        head = "| level | exercises | right repair | median tests | minutes |\n|---|---|---|---|---|\n"
        lines = rows.group_by(&:level).sort.map { |level, list| "| #{level} | #{cells(list)} |" }
        guessed = rows.filter_map { |row| [row.guessed] unless row.guessed.nil? }.flatten
        [
          head + (lines << "| all | #{cells(rows)} |").join("\n"),
          "",
          "- right repair: #{share(rows.count(&:right), rows.size)}",
          "- sound modules condemned: #{rows.count(&:condemned)}",
          "- nothing wrong: #{share(*of(rows.select(&:nothing)))}",
          "- two faults: #{share(*of(rows.select { |row| row.faults > 1 }))}",
          "- one who tests at random: #{share(guessed.count(true), guessed.size)}"
        ].join("\n")
      end

      def self.of(rows)
        [rows.count(&:right), rows.size]
      end

      def self.cells(rows)
        median = ->(values) { Quantity::Statistics.median(values) }
        [rows.size, share(*of(rows)), median.call(rows.map(&:tests)), median.call(rows.map(&:minutes)).round].join(
          " | "
        )
      end

      def self.share(count, of)
        of.zero? ? "none" : "#{(100.0 * count / of).round(1)} %"
      end
      private_class_method :of, :cells, :share
    end
  end
end
