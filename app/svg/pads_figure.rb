# frozen_string_literal: true

module Web
  module Svg
    # Four corners from above: a disc between two pads, each as thick as its lining, the least as a line.
    class PadsFigure
      WIDTH = 640
      HEIGHT = 330
      MM = 7.0 # pixels of a millimetre
      AT = {
        "front_left" => [150, 80],
        "front_right" => [490, 80],
        "rear_left" => [150, 245],
        "rear_right" => [490, 245]
      }.freeze

      # sheet: Gadwall::Pads::Sheet or nil; judgement: Gadwall::Pads::Judgement or nil; sensors: corners with a wear
      # sensor; units: Gadwall::Quantity::Preferences.
      def initialize(sheet, judgement, sensors: [], units: Gadwall::Quantity::Preferences.new)
        @units = units
        @sheet = sheet
        @judgement = judgement
        @sensors = sensors
        @svg = Element.new
      end

      # A thickness as it is read out. units: Gadwall::Quantity::Preferences; millimetres: Float.
      def self.plain(units, millimetres)
        units.unit("mm") == "mm" ? format("%.1f", millimetres) : format("%.2f", units.shown(millimetres, "mm"))
      end

      def to_s
        box = "0 0 #{WIDTH} #{HEIGHT}"
        @svg.tag(:svg, viewBox: box, class: "pads-figure", role: "img", aria_label: description) do
          @svg.tag(:path, d: "M320 30 V300 M150 80 H490 M150 245 H490", class: "pads-body")
          AT.each { |corner, (x, y)| corner(corner, x, y) }
        end
        @svg.to_s
      end

      private

      def description
        return "No pads measured" unless @sheet

        @sheet.corners.map { |corner| "#{name(corner)} #{@sheet.least_lining(corner)} mm" }.join("; ")
      end

      def name(corner)
        Gadwall::Vehicle::CORNERS.fetch(corner, corner)
      end

      # Outside to the left on the left side: outer pad, disc, inner pad.
      def corner(corner, x, y)
        @svg.tag(:rect, x: x - 6, y: y - 42, width: 12, height: 84, class: "pads-disc")
        left = corner.end_with?("left")
        { "outer" => left ? -1 : 1, "inner" => left ? 1 : -1 }.each { |place, side| pad(corner, place, x, y, side) }
        @svg.tag(:text, words(corner), x: x, y: y + 62, class: "pads-words")
        @svg.tag(:circle, cx: x, cy: y - 54, r: 5, class: "pads-sensor") if @sensors.include?(corner)
      end

      def words(corner)
        left = @judgement&.left&.fetch(corner, nil)
        return name(corner) unless left

        low, high = [left.low, left.high].map { |km| Helpers::Words.thousands(km) }
        "#{name(corner)}: #{left.high ? "#{low} to #{high} km" : "#{low} km at least"}"
      end

      def pad(corner, place, x, y, side)
        lining = @sheet&.lining(corner, place)
        start = x + (side * 9)
        unless lining
          return(
            @svg.tag(:rect, x: [start, start + (side * 40)].min, y: y - 30, width: 40, height: 60, class: "pads-none")
          )
        end
        width = [lining * MM, 1.5].max
        worn = lining <= @sheet.axle(corner, "least")
        edge = side.positive? ? start : start - width
        @svg.tag(:rect, x: edge, y: y - 30, width: width, height: 60, class: worn ? "pads-lining worn" : "pads-lining")
        least = start + (side * @sheet.axle(corner, "least") * MM)
        @svg.tag(:line, x1: least, x2: least, y1: y - 36, y2: y + 36, class: "pads-least")
        @svg.tag(
          :text,
          PadsFigure.plain(@units, lining),
          x: start + (side * (width + 26)),
          y: y + 6,
          class: worn ? "pads-mm worn" : "pads-mm"
        )
      end
    end
  end
end
