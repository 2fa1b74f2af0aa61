# frozen_string_literal: true

module Gadwall
  module Training
    # The exercises that ship with the application (data/practice/exercises.yml), and those drawn by a seed.
    module ExerciseBook
      LEVELS = {
        1 => "One fault, and it stays",
        2 => "A fault that looks like another",
        3 => "Intermittent, or seen only now and then",
        4 => "Two at once, none at all, nearly the wrong part"
      }.freeze
      SEEDED = /\Aseed-([1-4])-(\d{1,9})\z/

      # Array of Exercise, by level.
      def self.all
        @all ||= Knowledge.catalogue.exercises.map { |row| Exercise.of(row) }.freeze
      end

      # id: of an exercise, its key, or "seed-LEVEL-NUMBER". Raises UnknownNameError.
      def self.find(id)
        level, seed = id.to_s.match(SEEDED)&.captures
        return Drawn.exercise(level.to_i, seed.to_i) if level

        all.find { |each| [each.id, each.key].include?(id) } or
          raise UnknownNameError.new(field: "exercise", given: id, known: all.map(&:id))
      end
    end
  end
end
