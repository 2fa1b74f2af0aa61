# frozen_string_literal: true

module Web
  module Svg
    # The mark of a place: a shape and a word; for suspects, the chance.
    class PlaceMarks
      include Helpers::Words

      WORDS = { "ok" => "OK", "suspect" => "suspect", "unknown" => "not tested" }.freeze

      # place_states: {place => [standing, probability]}.
      def initialize(svg, layout, place_states)
        @svg = svg
        @layout = layout
        @place_states = place_states
      end

      def state_of(place)
        @place_states.fetch(place, ["unknown", 0.0])
      end

      # Below the wires, with a small note.
      def label(x, place, small)
        state, probability = state_of(place)
        y = @layout.marks_y
        mark(x, y, state)
        @svg.tag(:text, word(state, probability), x: x, y: y + 25, class: "place-mark #{state}")
        @svg.tag(:text, small, x: x, y: y + 42, class: "place-note") if small
      end

      # What stands at the mark: of a suspect its chance.
      def word(state, probability)
        state == "suspect" ? percent(probability) : WORDS[state]
      end

      private

      # A tick, a diamond, or an open ring.
      def mark(x, y, state)
        case state
        when "ok"
          @svg.tag(:path, d: "M#{x - 7} #{y} l5 6 l10 -12", class: "mark ok")
        when "suspect"
          @svg.tag(:path, d: "M#{x} #{y - 9} l9 9 l-9 9 l-9 -9 z", class: "mark suspect")
        else
          @svg.tag(:circle, cx: x, cy: y, r: 5, class: "mark unknown")
        end
      end
    end
  end
end
