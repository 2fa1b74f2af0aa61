# frozen_string_literal: true

module Web
  module Svg
    # The vehicle from above, nose to the left, so that it fills the width and its marks can be read and touched: left
    # as seated is below. Wheels as wheels, every other circuit as a disc where its part sits, each with its share of
    # the suspicion. Places are told with the nose up (data/vehicle/circuits.yml) and turned here.
    class VehiclePlan
      WHEELS = {
        "front_left" => [38, 62],
        "front_right" => [162, 62],
        "rear_left" => [38, 208],
        "rear_right" => [162, 208],
        "rear_axle" => [100, 208]
      }.freeze
      WIDTH = 200
      TRAILER = %w[trailer_modulator trailer_bus trailer_left trailer_right].freeze

      # A circuit on the plan: at: [x, y] for discs, nil for wheels.
      Spot = Struct.new(:id, :title, :at, :share, keyword_init: true)

      # spots: Array of Spot; here: id of the circuit shown; href: ->(circuit id) a link.
      def initialize(spots, here:, driver_side:, href:)
        @spots = spots
        @here = here
        @driver_side = driver_side
        @href = href
        @svg = Element.new
      end

      def to_s
        @svg.tag(
          :svg,
          viewBox: "0 0 #{trailer? ? 330 : 262} #{WIDTH}",
          role: "group",
          class: "plan-figure",
          aria_label: "Vehicle from above: choose a circuit"
        ) do
          @svg.tag(:g, transform: "translate(0 #{WIDTH}) rotate(-90)") do
            body
            trailer if trailer?
          end
          @spots.each { |spot| WHEELS.key?(spot.id) ? wheel(spot) : disc(spot) }
        end
        @svg.to_s
      end

      private

      def trailer?
        @spots.any? { |spot| TRAILER.include?(spot.id) }
      end

      def body
        @svg.tag(
          :path,
          d: "M62 20 Q100 4 138 20 L146 60 V214 Q146 250 100 252 Q54 250 54 214 V60 Z",
          class: "plan-body"
        )
        @svg.tag(:path, d: "M66 88 Q100 74 134 88 L130 100 H70 Z", class: "plan-glass")
        @svg.tag(:circle, cx: @driver_side == "left" ? 80 : 120, cy: 108, r: 6, class: "plan-wheel")
        @svg.tag(:line, x1: 54, x2: 146, y1: 62, y2: 62, class: "plan-axle")
        @svg.tag(:line, x1: 54, x2: 146, y1: 208, y2: 208, class: "plan-axle")
      end

      def trailer
        @svg.tag(:path, d: "M100 252 V266 M58 266 H142 V326 H58 Z", class: "plan-body")
      end

      # With the nose to the left.
      def turned(place)
        [place[1], WIDTH - place[0]]
      end

      def wheel(spot)
        x, y = turned(WHEELS[spot.id])
        link(spot) do
          @svg.tag(:title, spot.title)
          @svg.tag(:rect, x: x - 30, y: y - 22, width: 60, height: 44, rx: 4, class: css(spot))
          text(x, y + 6, spot.share, "plan-text")
        end
      end

      def disc(spot)
        x, y = turned(spot.at)
        link(spot) do
          @svg.tag(:title, spot.title)
          @svg.tag(:circle, cx: x, cy: y, r: 12, class: css(spot))
          text(x, y + 4, spot.share, "plan-small")
        end
      end

      def link(spot, &)
        @svg.tag(
          :a,
          href: @href.call(spot.id),
          aria_label: "#{spot.title}, #{shown(spot.share)} percent",
          aria_current: spot.id == @here ? "true" : nil,
          &
        )
      end

      def css(spot)
        ["plan-corner", ("suspect" if spot.share >= 0.05), ("here" if spot.id == @here)].compact.join(" ")
      end

      def text(x, y, share, style)
        @svg.tag(:text, shown(share), x: x, y: y, class: style)
      end

      # Never a false nothing or all.
      def shown(share)
        share < 0.01 ? "–" : [(share * 100).round, 99].min.to_s
      end
    end
  end
end
