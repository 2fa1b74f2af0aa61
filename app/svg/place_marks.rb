# frozen_string_literal: true

module Web
  module Svg
    # The mark of a place: a shape and a word; for suspects, the chance.
    class PlaceMarks
      WORDS = { "sound" => "sound", "suspect" => "suspect", "unknown" => "not known" }.freeze

      # standings: {place => [standing, probability]}.
      def initialize(svg, layout, standings)
        @svg = svg
        @layout = layout
        @standings = standings
      end

      def standing(place)
        @standings.fetch(place, ["unknown", 0.0])
      end

      # Below the wires, with a small note.
      def label(x, place, small)
        state, probability = standing(place)
        y = @layout.marks_y
        mark(x, y, state)
        @svg.tag(:text, state == "suspect" ? share(probability) : WORDS[state], x: x, y: y + 25, class: "place-mark #{state}")
        @svg.tag(:text, small, x: x, y: y + 42, class: "place-note") if small
      end

      # Never a false 100.
      def share(probability)
        probability > 0.99 ? "99+ %" : "#{(probability * 100).round} %"
      end

      private

      # A tick, a diamond, or an open ring.
      def mark(x, y, state)
        case state
        when "sound" then @svg.tag(:path, d: "M#{x - 7} #{y} l5 6 l10 -12", class: "mark sound")
        when "suspect" then @svg.tag(:path, d: "M#{x} #{y - 9} l9 9 l-9 9 l-9 -9 z", class: "mark suspect")
        else @svg.tag(:circle, cx: x, cy: y, r: 5, class: "mark unknown")
        end
      end
    end
  end
end
