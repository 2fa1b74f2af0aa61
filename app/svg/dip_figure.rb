# frozen_string_literal: true

module Web
  module Svg
    # How much of the speed goes missing where the gap passes, against the vehicle's speed; hatched, the speeds at which
    # a controller takes it for slip.
    class DipFigure
      WIDTH = 640
      HEIGHT = 230
      LEFT = 52
      RIGHT = 16
      TOP = 30
      BOTTOM = 40

      # dip: Gadwall::Signals::LowSpeedDip.
      def initialize(dip)
        @dip = dip
        @range = dip.slip_range
        @most_km_h = [((@range ? @range.last * 1.6 : 30) / 10.0).ceil * 10, 20].max
        @most_dip = [(dip.dip(0.1) * 1.25), dip.figures["slip_from"] * 1.4].max.clamp(0.1, 1.0)
        @svg = Element.new
      end

      def to_s
        @svg.tag(:svg, viewBox: "0 0 #{WIDTH} #{HEIGHT}", role: "img", class: "dip-figure", aria_label: words) do
          hatch
          range if @range
          axes
          limit
          @svg.tag(:polyline, points: curve, class: "dip-curve")
        end
        @svg.to_s
      end

      def words
        @range ? "Taken for slip from #{@range.first} to #{@range.last} km/h" : "Never taken for slip"
      end

      private

      def x(km_h)
        LEFT + ((WIDTH - LEFT - RIGHT) * km_h / @most_km_h.to_f)
      end

      def y(share)
        HEIGHT - BOTTOM - ((HEIGHT - BOTTOM - TOP) * share / @most_dip)
      end

      def curve
        (1..(WIDTH - LEFT - RIGHT))
          .map { |px| px * @most_km_h / (WIDTH - LEFT - RIGHT).to_f }
          .map { |km_h| "#{x(km_h).round(1)},#{y(@dip.dip(km_h)).round(1)}" }
          .join(" ")
      end

      def hatch
        @svg.tag(:defs) do
          @svg.tag(
            :pattern,
            id: "dip-hatch",
            width: 8,
            height: 8,
            patternUnits: "userSpaceOnUse",
            patternTransform: "rotate(45)"
          ) { @svg.tag(:rect, width: 3, height: 8, class: "dip-stripe") }
        end
      end

      def range
        from, upto = @range
        @svg.tag(
          :rect,
          x: x(from),
          y: TOP,
          width: [x(upto) - x(from), 2].max,
          height: HEIGHT - BOTTOM - TOP,
          fill: "url(#dip-hatch)"
        )
        @svg.tag(:text, "#{from} to #{upto} km/h", x: [x(from), LEFT + 4].max, y: TOP - 9, class: "dip-range")
      end

      def axes
        @svg.tag(:path, d: "M#{LEFT} #{TOP} V#{HEIGHT - BOTTOM} H#{WIDTH - RIGHT}", class: "dip-axis")
        step =
          if @most_km_h > 60
            20
          else
            (@most_km_h > 30 ? 10 : 5)
          end
        0.step(@most_km_h, step) do |km_h|
          @svg.tag(:text, km_h.to_s, x: x(km_h), y: HEIGHT - BOTTOM + 18, class: "dip-tick")
        end
        @svg.tag(:text, "km/h", x: WIDTH - RIGHT, y: HEIGHT - 4, class: "dip-unit")
        [0.25, 0.5, 0.75].select { |share| share < @most_dip }
          .each do |share|
            @svg.tag(:text, "#{(share * 100).round} %", x: LEFT - 6, y: y(share) + 5, class: "dip-share")
          end
        @svg.tag(:text, "of the speed missing", x: WIDTH - RIGHT, y: TOP - 9, class: "dip-unit")
      end

      def limit
        share = @dip.figures["slip_from"]
        @svg.tag(:path, d: "M#{LEFT} #{y(share).round(1)} H#{WIDTH - RIGHT}", class: "dip-limit")
        @svg.tag(:text, "slip from #{(share * 100).round} %", x: WIDTH - RIGHT, y: y(share) - 5, class: "dip-unit")
      end
    end
  end
end
