# frozen_string_literal: true

module Web
  module Svg
    # Where things stand in the drawing of a harness: wires one below the other, connectors spread between head and
    # tail.
    class HarnessLayout
      TOP = 92.0
      STEPS = { 1 => 40.0, 2 => 40.0, 3 => 34.0 }.freeze
      CROWDED = 5 # from so many connectors on, their names take turns in two rows

      attr_reader :wires_y

      # harness: Gadwall::Circuits::Harness.
      def initialize(harness)
        @harness = harness
        step = STEPS.fetch(harness.wires.size, 27.0)
        @wires_y = Array.new(harness.wires.size) { |i| TOP + (i * step) }.freeze
      end

      def top
        TOP
      end

      # Of the lowest wire; no lower than a second wire would be, so that boxes have room.
      def bottom
        [wires_y.last || TOP, TOP + 40, TOP + ((@harness.extras.size - 1) * 30)].max
      end

      def middle
        (top + bottom) / 2
      end

      def marks_y
        bottom + 49
      end

      def height
        bottom + 96 + (@harness.modules.any? ? 50 : 0)
      end

      def member_y
        bottom + 102
      end

      def left
        132.0
      end

      def right
        return 990.0 if @harness.ring?

        @harness.extras.any? ? 926.0 : 1080.0
      end

      def x_of(connector)
        return (left + right) / 2 if @harness.connectors.size == 1

        left + 50 + ((right - left - 100) * @harness.connectors.index(connector) / (@harness.connectors.size - 1).to_f)
      end

      def name_y(index)
        @harness.connectors.size > CROWDED && index.odd? ? 20 : 38
      end

      # [x, y, height] of a part beside the harness.
      def extra(index)
        space = (bottom - top + 84) / @harness.extras.size
        [1040.0, top - 42 + (index * space), space - 8]
      end
    end
  end
end
