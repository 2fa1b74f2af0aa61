# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # Which corner a text speaks of, in any manner of speaking (data/codes/side_words.yml): left and right as seated,
    # near side and off side, driver and passenger by where the driver sits.
    class CornerWords
      # side: "left", "right" or nil; end: "front", "rear" or nil.
      Found =
        Struct.new(:side, :end, keyword_init: true) do
          # Id of the corner, or nil where side or end was not said.
          def corner
            side && self.end ? "#{self.end}_#{side}" : nil
          end
        end

      # driver_side: "left" or "right".
      def initialize(driver_side, catalogue)
        @sides = {
          "left" => "left",
          "right" => "right",
          "driver" => driver_side,
          "off" => driver_side,
          "passenger" => across(driver_side),
          "near" => across(driver_side)
        }
        @rows = catalogue.side_words.map { |row| [catalogue.patterns(row), row["says"]] }
      end

      # The first word for a side and the first for an end count.
      def find(text)
        said = @rows.select { |patterns, _| patterns.match?(text) }.flat_map(&:last)
        Found.new(
          side: @sides[said.find { |word| @sides.key?(word) }],
          end: said.find { |word| %w[front rear].include?(word) }
        ).freeze
      end

      private

      def across(side)
        side == "left" ? "right" : "left"
      end
    end
  end
end
