# frozen_string_literal: true

module Web
  module Svg
    # The proof drive as a strip: speed over distance, leg after leg, with turns and stops. Widths grow with the root of
    # the distance, so that a short leg can still be read beside a long one.
    class DriveStrip
      WIDTH = 1180
      HEIGHT = 210
      LEFT = 44
      TOP = 26
      BOTTOM = 58
      LEAST = 84 # width of a leg without distance

      # legs: Array of Gadwall::Repair::DriveLegs::Leg; results: {leg id => "pass" or "fail"}; here: id of the next, or
      # nil.
      def initialize(legs, results: {}, here: nil)
        @legs = legs
        @results = results
        @here = here
        @most = [legs.filter_map { |leg| leg.speed_km_h&.last }.max || 30, 30].max
        @svg = Element.new
      end

      def to_s
        @svg.tag(:svg, viewBox: "0 0 #{WIDTH} #{HEIGHT}", role: "img", class: "drive-strip", aria_label: words) do
          axis
          x = LEFT.to_f
          @legs.zip(widths) do |leg, width|
            draw(leg, x, width)
            x += width
          end
        end
        @svg.to_s
      end

      # The strip in a sentence.
      def words
        "Proof drive: #{@legs.map { |leg| [leg.title, speed(leg)].compact.join(" at ") }.join(", then ")}"
      end

      private

      def widths
        weights = @legs.map { |leg| [Math.sqrt(leg.distance_m.to_f) * 3, LEAST].max }
        scale = (WIDTH - LEFT - 8) / weights.sum.to_f
        weights.map { |weight| weight * scale }
      end

      def speed(leg)
        leg.speed_km_h && "#{leg.speed_km_h.join(" to ")} km/h"
      end

      def floor
        HEIGHT - BOTTOM
      end

      def y(km_h)
        floor - ((floor - TOP) * km_h / @most.to_f)
      end

      def axis
        [0, @most / 2, @most].each do |km_h|
          @svg.tag(:line, x1: LEFT, x2: WIDTH - 8, y1: y(km_h), y2: y(km_h), class: "strip-grid")
          @svg.tag(:text, km_h.round, x: LEFT - 6, y: y(km_h) + 5, class: "strip-axis strip-number", text_anchor: "end")
        end
        @svg.tag(:text, "km/h", x: 2, y: 14, class: "strip-axis")
      end

      def draw(leg, x, width)
        band(leg, x, width)
        @svg.tag(:line, x1: x + width, x2: x + width, y1: TOP - 6, y2: floor + 6, class: "strip-edge")
        marks(leg, x, width)
        mark = { "pass" => "✓ ", "fail" => "✕ " }.fetch(@results[leg.id], "")
        @svg.tag(:text, "#{mark}#{short(leg.title, width)}", x: x + 5, y: floor + 20, class: "strip-title")
        @svg.tag(:text, distance(leg), x: x + 5, y: floor + 37, class: "strip-small")
      end

      def band(leg, x, width)
        low, high = leg.speed_km_h || [0, 2]
        @svg.tag(
          :rect,
          x: x + 2,
          width: [width - 4, 2].max,
          y: y(high),
          height: [y(low) - y(high), 4].max,
          class: ["strip-leg", leg.id == @here ? "here" : @results[leg.id]].compact.join(" ")
        )
      end

      # Turns as a wave over the band, stops as posts that go down to nought.
      def marks(leg, x, width)
        if leg.turns == "both"
          points =
            (0..24).map do |i|
              "#{(x + 6 + ((width - 12) * i / 24)).round(1)},#{(TOP - 2 - (7 * Math.sin(i * Math::PI / 6))).round(1)}"
            end
          @svg.tag(:polyline, points: points.join(" "), class: "strip-turns")
        end
        count = [leg.stops.to_i, (width / 9).floor].min
        count.times do |i|
          at = x + (width * (i + 1) / (count + 1))
          @svg.tag(:line, x1: at, x2: at, y1: y((leg.speed_km_h || [0, 2]).last), y2: floor, class: "strip-stop")
          @svg.tag(:rect, x: at - 3, y: floor - 3, width: 6, height: 6, class: "strip-post")
        end
      end

      def short(title, width)
        most = [(width / 7.2).floor, 3].max
        title.length > most ? "#{title[0, most - 1]}…" : title
      end

      def distance(leg)
        parts = []
        if leg.distance_m
          parts << (
            if leg.distance_m >= 1000
              "#{(leg.distance_m / 1000.0).round(1).to_s.delete_suffix(".0")} km"
            else
              "#{leg.distance_m} m"
            end
          )
        end
        parts << "#{leg.seconds} s" if leg.seconds && leg.distance_m.nil?
        parts << "#{leg.stops} stops" if leg.stops.to_i.positive?
        parts.join(", ")
      end
    end
  end
end
