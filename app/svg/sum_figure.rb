# frozen_string_literal: true

module Web
  module Svg
    # A small drawing beside a sum, made from its inputs.
    class SumFigure
      WIDTH = 420
      HEIGHT = 120

      # kind: of data/sums; inputs: {id => value}; result: Gadwall::Calculators::Book::Result.
      def initialize(kind, inputs, result)
        @kind = kind
        @inputs = inputs
        @result = result
        @svg = Element.new
      end

      def to_s
        @svg.tag(:svg, viewBox: "0 0 #{WIDTH} #{HEIGHT}", class: "sum-figure", aria_hidden: true) { send(@kind) }
        @svg.to_s
      end

      private

      def ring
        teeth = @inputs["teeth"].round.clamp(8, 120)
        points =
          (0...(teeth * 2)).flat_map do |i|
            radius = i.even? ? 52 : 45
            [i, i + 1].map { |each| polar(60, 60, radius, each * Math::PI / teeth) }
          end
        @svg.tag(:path, d: "M#{points.map { |x, y| "#{x} #{y}" }.join(" L")} Z", class: "sum-line")
        @svg.tag(:circle, cx: 60, cy: 60, r: 24, class: "sum-line")
        wave = (0..80).map { |i| "#{150 + (i * 3)} #{(60 - (26 * Math.sin(i * 0.5))).round(1)}" }
        @svg.tag(:polyline, points: wave.join(" "), class: "sum-accent")
      end

      def polar(x, y, radius, angle)
        [(x + (radius * Math.cos(angle))).round(1), (y + (radius * Math.sin(angle))).round(1)]
      end

      def wire
        @svg.tag(:line, x1: 30, x2: 390, y1: 60, y2: 60, class: "sum-accent")
        [30, 390].each { |x| @svg.tag(:circle, cx: x, cy: 60, r: 7, class: "sum-line") }
        words("#{plain(@inputs["length"])} m", 210, 44)
        words("#{plain(@inputs["current"])} A", 210, 88)
      end

      def divider
        @svg.tag(:path, d: "M60 12 V30 M60 62 V70 M60 102 V112 M60 66 H200", class: "sum-line")
        [30, 70].each { |y| @svg.tag(:rect, x: 48, y: y, width: 24, height: 32, class: "sum-line") }
        words("#{@result.value} V", 240, 72)
      end

      def bus
        @svg.tag(:path, d: "M40 50 H380 M40 76 H380", class: "sum-accent")
        count = @inputs["ends"].to_i
        [[34, count >= 1], [370, count >= 2]].each do |x, there|
          @svg.tag(:rect, x: x, y: 46, width: 14, height: 34, class: there ? "sum-solid" : "sum-gone")
        end
        [0, @inputs["nodes"].to_i].max
          .clamp(0, 20)
          .times do |i|
            x = 70 + (i * 15)
            @svg.tag(:path, d: "M#{x} 50 V22", class: "sum-line")
          end
      end

      def accumulator
        @svg.tag(:rect, x: 30, y: 20, width: 130, height: 82, rx: 40, class: "sum-line")
        @svg.tag(:path, d: "M30 66 Q95 40 160 66", class: "sum-accent")
        words("gas", 95, 44)
        words("fluid", 95, 92)
      end

      def slope
        height = [@inputs["grade"] * 1.6, 100].min
        @svg.tag(:path, d: "M30 110 H330 L330 #{(110 - height).round(1)} Z", class: "sum-line")
        words("#{plain(@inputs["grade"])} %", 360, 100)
      end

      def wrench
        handle = @inputs["wrench"]
        extension = @inputs["extension"]
        whole = handle + [extension, 0].max
        length = ->(mm) { mm / whole * 320.0 }
        @svg.tag(:line, x1: 30, x2: (30 + length.call(handle)).round(1), y1: 60, y2: 60, class: "sum-line thick")
        from = 30 + length.call(handle)
        @svg.tag(
          :line,
          x1: from.round(1),
          x2: (from + length.call(extension)).round(1),
          y1: 60,
          y2: 60,
          class: "sum-accent thick"
        )
        words("#{plain(handle)} mm", 30 + (length.call(handle) / 2), 44)
        words("#{plain(extension)} mm", from + (length.call(extension) / 2), 92)
      end

      def words(text, x, y)
        @svg.tag(:text, text, x: x, y: y, class: "sum-words")
      end

      def plain(number)
        number.to_s.delete_suffix(".0")
      end
    end
  end
end
