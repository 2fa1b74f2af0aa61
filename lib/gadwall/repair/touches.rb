# frozen_string_literal: true

module Gadwall
  module Repair
    # What a job touches, in the words of data/repairs/vocabulary.yml: derived from where the hand goes, the option
    # chosen and how the vehicle is built (data/repairs/touches.yml), not looked up by the name of the repair.
    class Touches
      # Modules by the word that stands for them; any other is "other_module".
      MODULES = {
        "abs" => "abs_module",
        "epb" => "epb_module",
        "accumulator" => "accumulator_module",
        "trailer" => "trailer_modulator",
        "trailer_brake" => "trailer_brake_module"
      }.freeze
      # Options that repair nothing.
      NOTHING = %w[watch no_fault_found off_the_road].freeze
      ORDER = Vocabulary::TOUCHES

      # sheet: Vehicle::Sheet; works: Array of Work; catalogue: Knowledge::Catalogue. Returns a frozen Array of words,
      # in the order of the verbs.
      def self.words(sheet, works, catalogue)
        new(sheet, catalogue).words(works)
      end

      def initialize(sheet, catalogue)
        @sheet = sheet
        @catalogue = catalogue
      end

      # works: Array of Work.
      def words(works)
        works
          .flat_map { |work| of_work(work) }
          .uniq
          .sort_by { |word| [ORDER.index(word.split(":").first), word] }
          .freeze
      end

      private

      def of_work(work)
        return [] if NOTHING.include?(work.option)

        @catalogue
          .touches
          .each_with_object([]) do |row, words|
            words.concat(row["touches"].filter_map { |word| filled(word, work) } - words) if holds?(row, work, words)
          end
      end

      # A word with the place's own corner, axle and module; a place away from the wheels lifts the vehicle.
      def filled(word, work)
        return word unless word.include?("{")
        return word.sub("{module}", MODULES.fetch(work.module, "other_module")) if word.include?("{module}")

        corner = word.include?("{axle}") ? work.axle : work.corner
        return word.start_with?("lifts:") ? "lifts:vehicle" : nil unless corner
        return word.start_with?("lifts:") ? "lifts:rear_axle" : nil if work.corner == "rear_axle"

        word.sub(/\{\w+\}/, corner)
      end

      # words: those that earlier rows gave this work.
      def holds?(row, work, words)
        named?(row["repairs"], work.repair) && named?(row["families"], work.family) &&
          named?(row["options"], work.option) && named?(row["modules"], work.module) &&
          named?(row["kinds"], work.kind) && fits?(row["circuits"], work.circuit) &&
          fits?(row["places"], "#{work.family}/#{work.place}") && (row["needs"].nil? || row["needs"] == work.needs) &&
          (row["passes"].nil? || row["passes"] == work.passes) && given?(row["with"], words) && built?(row["vehicle"])
      end

      def named?(list, id)
        list.nil? || list.include?(id)
      end

      def fits?(patterns, name)
        patterns.nil? || patterns.any? { |pattern| File.fnmatch(pattern, name) }
      end

      def given?(patterns, words)
        patterns.nil? || patterns.all? { |pattern| words.any? { |word| Vocabulary.fits?(pattern, word) } }
      end

      def built?(answers)
        @sheet.fits?(answers)
      end
    end
  end
end
