# frozen_string_literal: true

module Web
  module Svg
    # Scores over time, a line for each family of faults: the higher, the nearer to the advised way.
    class ScoreFigure
      WIDTH = 490.0
      HEIGHT = 230.0
      LEFT = 40.0
      RIGHT = 300.0
      TOP = 16.0
      BOTTOM = 200.0
      DASHES = ["", "7 4", "2 4", "10 3 2 3", "1 3"].freeze
      MOST = 5

      # results: Array of Store::PracticeResultStore::Result, oldest first.
      def initialize(results)
        @results = results
        @svg = Element.new
      end

      def to_s
        box = "0 0 #{WIDTH.round} #{HEIGHT.round}"
        @svg.tag(:svg, viewBox: box, role: "img", class: "score-figure", aria_label: description) do
          axis
          families.each_with_index { |(family, rows), i| line(family, rows, i) }
        end
        @svg.to_s
      end

      private

      def families
        @families ||=
          @results.each_with_index.group_by { |row, _| row.family }.sort_by { |_, rows| -rows.size }.first(MOST)
      end

      def description
        said = families.map { |family, rows| "#{words(family)}: #{rows.map { |row, _| row.score }.join(", ")}" }
        "Scores over time. #{said.join("; ")}"
      end

      def axis
        [0, 50, 100].each do |score|
          y = y_of(score)
          @svg.tag(:line, x1: LEFT, x2: RIGHT, y1: y, y2: y, class: "score-grid")
          @svg.tag(:text, score.to_s, x: LEFT - 8, y: y + 5, class: "score-axis")
        end
        @svg.tag(:text, "first", x: LEFT, y: BOTTOM + 20, class: "score-end")
        @svg.tag(:text, "latest", x: RIGHT, y: BOTTOM + 20, class: "score-end late")
      end

      def line(family, rows, index)
        points = rows.map { |row, i| [x_of(i), y_of(row.score)] }
        @svg.tag(
          :polyline,
          points: points.map { |x, y| "#{x.round(1)},#{y.round(1)}" }.join(" "),
          class: "score-line",
          stroke_dasharray: DASHES[index]
        )
        points.each { |x, y| @svg.tag(:circle, cx: x, cy: y, r: 4, class: "score-point") }
        y = TOP + 12 + (index * 24)
        @svg.tag(
          :line,
          x1: RIGHT + 14,
          x2: RIGHT + 44,
          y1: y - 5,
          y2: y - 5,
          class: "score-line",
          stroke_dasharray: DASHES[index]
        )
        @svg.tag(:text, "#{words(family)} #{rows.last.first.score}", x: RIGHT + 50, y: y, class: "score-name")
      end

      def words(family)
        family.tr("_", " ")
      end

      def x_of(index)
        last = [@results.size - 1, 1].max
        LEFT + ((RIGHT - LEFT) * index / last.to_f)
      end

      def y_of(score)
        BOTTOM - ((BOTTOM - TOP) * score / 100.0)
      end
    end
  end
end
