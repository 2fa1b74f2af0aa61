# frozen_string_literal: true

module Gadwall
  module Repair
    # Composes the plan of a repair from what it touches (Touches) and from the rules of data/repairs/steps.yml.
    module Composer
      # Version of the rules. A plan keeps the version that it was composed by.
      RULES = "2"

      # sheet: Vehicle::Sheet; jobs: [[Suspect, Decision::Options::Choice], ...], what is repaired and how; catalogue:
      # Knowledge::Catalogue. Returns a frozen Array of Step in the order of the work.
      def self.steps(sheet, jobs, catalogue)
        works = jobs.flat_map { |suspect, choice| Touches.works(suspect, choice) }
        words = Touches.words(sheet, works, catalogue) | jobs.flat_map { |_, choice| choice.needs }
        catalogue.steps.values.select { |row| asked?(row, words) }.map { |row| Step.of(row, words, catalogue) }.freeze
      end

      def self.asked?(row, words)
        ((row["when"] || []) - words).empty? && (row["any"].nil? || row["any"].intersect?(words))
      end
      private_class_method :asked?
    end
  end
end
