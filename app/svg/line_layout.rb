# frozen_string_literal: true

module Web
  module Svg
    # Where things stand in the drawing of a line: wires one below the other, joints spread between head and tail.
    class LineLayout
      TOP = 92.0
      STEPS = { 1 => 40.0, 2 => 40.0, 3 => 34.0 }.freeze
      CROWDED = 5 # from so many joints on, their names take turns in two rows

      attr_reader :wires_y

      # line: Gadwall::Circuits::Line.
      def initialize(line)
        @line = line
        step = STEPS.fetch(line.wires.size, 27.0)
        @wires_y = Array.new(line.wires.size) { |i| TOP + (i * step) }.freeze
      end

      def top
        TOP
      end

      # Of the lowest wire; no lower than a second wire would be, so that boxes have room.
      def bottom
        [wires_y.last || TOP, TOP + 40, TOP + ((@line.extras.size - 1) * 30)].max
      end

      def middle
        (top + bottom) / 2
      end

      def marks_y
        bottom + 49
      end

      def height
        bottom + 96 + (@line.modules.any? ? 50 : 0)
      end

      def member_y
        bottom + 102
      end

      def left
        132.0
      end

      def right
        return 990.0 if @line.ring?

        @line.extras.any? ? 926.0 : 1080.0
      end

      def x_of(joint)
        return (left + right) / 2 if @line.joints.size == 1

        left + 50 + ((right - left - 100) * @line.joints.index(joint) / (@line.joints.size - 1).to_f)
      end

      def name_y(index)
        @line.joints.size > CROWDED && index.odd? ? 20 : 38
      end

      # [x, y, height] of a part beside the line.
      def extra(index)
        space = (bottom - top + 84) / @line.extras.size
        [1040.0, top - 42 + (index * space), space - 8]
      end
    end
  end
end
