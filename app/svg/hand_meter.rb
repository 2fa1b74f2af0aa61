# frozen_string_literal: true

module Web
  module Svg
    # The bench's meter: a display, and a dial that stands on its range. A drawing of our own.
    class HandMeter
      RANGES = [["off", "OFF", -120], ["volts", "V", -50], ["ohms", "Ω", 10], ["amperes", "A", 70]].freeze

      include Helpers::Words

      # range: of RANGES; text: what the display shows.
      def initialize(range, text)
        @range = range
        @text = units(text)
        @svg = Element.new
      end

      def to_s
        @svg.tag(:svg, viewBox: "0 0 300 300", role: "group", class: "hand-meter", aria_label: "Meter: #{@text}") do
          @svg.tag(:rect, x: 4, y: 4, width: 292, height: 292, rx: 26, class: "meter-body")
          @svg.tag(:rect, x: 24, y: 22, width: 252, height: 92, rx: 8, class: "meter-window")
          @svg.tag(
            :text,
            @range == "off" ? "" : @text,
            x: 264,
            y: 86,
            id: "meter-text",
            class: @text.size > 7 ? "meter-text long" : "meter-text"
          )
          dial
        end
        @svg.to_s
      end

      private

      def dial
        RANGES.each { |id, words, degrees| mark(id, words, degrees) }
        degrees = RANGES.find { |id, _, _| id == @range }.last
        @svg.tag(:g, transform: "rotate(#{degrees} 150 208)") do
          @svg.tag(:circle, cx: 150, cy: 208, r: 42, class: "meter-knob")
          @svg.tag(:line, x1: 150, x2: 150, y1: 208, y2: 170, class: "meter-needle")
        end
      end

      def mark(id, words, degrees)
        angle = degrees * Math::PI / 180
        x = 150 + (74 * Math.sin(angle))
        y = 208 - (66 * Math.cos(angle))
        @svg.tag(
          :g,
          class: "meter-range#{" here" if id == @range}",
          id: "range-#{id}",
          data_range: id,
          tabindex: 0,
          role: "button",
          aria_label: "Range #{words}"
        ) do
          @svg.tag(:circle, cx: x, cy: y, r: 24, class: "range-touch")
          @svg.tag(:text, words, x: x, y: y + 7, class: "range-name")
        end
      end
    end
  end
end
