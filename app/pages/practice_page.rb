# frozen_string_literal: true

module Web
  module Pages
    # The practice bay: exercises by level, what this learner made of them, and how it went over time.
    class PracticePage < Page
      # An exercise in the list. best: score or nil; tries: how often.
      Row = Struct.new(:id, :complaint, :vehicle, :best, :tries, keyword_init: true)

      attr_reader :learner

      # results: Array of Store::PracticeResultStore::Result of this learner; running: Array of Store listings that are
      # not ended; learner: name or nil.
      def initialize(results, running:, learner:, errors: {}, typed: {})
        super(nil, errors: errors, typed: typed)
        @results = results
        @running = running
        @learner = learner
      end

      def title
        "Practice"
      end

      # [[level, words, [Row, ...]], ...]
      def levels
        all = Gadwall::Training::ExerciseBook.all.group_by(&:level)
        Gadwall::Training::ExerciseBook::LEVELS.map do |level, words|
          [level, words, all.fetch(level, []).map { |each| row(each) }]
        end
      end

      # Exercises begun and not ended: [[number, vehicle, sentence], ...].
      def running
        @running.map { |each| [each.number, each.name, each.complaint] }
      end

      def figure
        @results.size < 2 ? nil : Svg::ScoreFigure.new(@results).to_s
      end

      # [[family, tries, mean score], ...], the weakest first.
      def families
        @results
          .group_by(&:family)
          .map { |family, rows| [family.tr("_", " "), rows.size, (rows.sum(&:score) / rows.size.to_f).round] }
          .sort_by(&:last)
      end

      def count
        @results.size
      end

      # A seed to begin with.
      def next_seed
        typed["seed"] || (@results.size + 1).to_s
      end

      private

      def row(exercise)
        own = @results.select { |each| each.exercise == exercise.id }
        Row.new(
          id: exercise.key,
          complaint: exercise.complaint,
          vehicle: exercise.vehicle["name"],
          best: own.map(&:score).max,
          tries: own.size
        )
      end
    end
  end
end
