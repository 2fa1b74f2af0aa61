# frozen_string_literal: true

module Gadwall
  module Repair
    # What a rule says to one vehicle in one plan: nothing of what it does not have (data/repairs/by_vehicle.yml),
    # and no line that nothing of the plan asks for.
    class Wording
      # catalogue: Knowledge::Catalogue; sheet: Vehicle::Sheet; words: WordList of the plan.
      def initialize(catalogue, sheet, words)
        @catalogue = catalogue
        @sheet = sheet
        @words = words
      end

      # A text with what stands in braces filled in; nil stays nil. Raises KnowledgeError for a brace without a record.
      def text(given)
        given&.gsub(/\{(\w+)\}/) { filled(Regexp.last_match(1)) }
      end

      # Those of some lines (asks, ticks, compare) that hold, without what they hold for. lines: Array of Hash, or nil.
      def lines(lines)
        (lines || [])
          .select { |line| @sheet.fits?(line["vehicle"]) && asked?(line["for"]) }
          .map { |line| line.except("vehicle", "for").merge("label" => text(line["label"])) }
      end

      private

      def asked?(patterns)
        patterns.nil? || patterns.any? { |pattern| @words.any?(pattern) }
      end

      def filled(id)
        record = @catalogue.by_vehicle[id] or
          raise KnowledgeError.new(file: "data/repairs/by_vehicle.yml", record: id, key: "id", problem: "is no record")
        @sheet.fits?(record["vehicle"]) ? record["text"] : record["otherwise"].to_s
      end
    end
  end
end
