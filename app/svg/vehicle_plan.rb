# frozen_string_literal: true

module Web
  module Svg
    # The vehicle from above, nose up, left and right as seated. Each corner with its share of the suspicion.
    class VehiclePlan
      PLACES = { "front_left" => [38, 62], "front_right" => [162, 62], "rear_left" => [38, 208], "rear_right" => [162, 208], "rear_axle" => [100, 208] }.freeze

      # shares: {circuit id => probability}; here: id of the circuit shown; href: ->(circuit id) a link.
      def initialize(shares, here:, driver_side:, href:)
        @shares = shares
        @here = here
        @driver_side = driver_side
        @href = href
        @svg = Element.new
      end

      def to_s
        @svg.tag(:svg, viewBox: "0 0 200 262", role: "group", class: "plan-figure", aria_label: "Vehicle from above: choose a corner") do
          body
          @shares.each { |id, share| PLACES.key?(id) ? corner(id, share) : box(id, share) }
        end
        @svg.to_s
      end

      private

      def body
        @svg.tag(:path, d: "M62 20 Q100 4 138 20 L146 60 V214 Q146 250 100 252 Q54 250 54 214 V60 Z", class: "plan-body")
        @svg.tag(:path, d: "M66 92 Q100 78 134 92 L128 112 H72 Z", class: "plan-glass")
        @svg.tag(:circle, cx: @driver_side == "left" ? 80 : 120, cy: 122, r: 8, class: "plan-wheel")
        @svg.tag(:line, x1: 54, x2: 146, y1: 62, y2: 62, class: "plan-axle")
        @svg.tag(:line, x1: 54, x2: 146, y1: 208, y2: 208, class: "plan-axle")
      end

      def corner(id, share)
        x, y = PLACES[id]
        link(id, share, Gadwall::Vehicle::CORNERS[id]) do
          @svg.tag(:rect, x: x - 24, y: y - 30, width: 48, height: 60, rx: 4, class: css(id, share))
          text(x, y, share)
        end
      end

      def box(id, share)
        link(id, share, "anti-lock module") do
          @svg.tag(:rect, x: 76, y: 140, width: 48, height: 34, class: css(id, share))
          text(100, 157, share)
        end
      end

      def link(id, share, name, &block)
        @svg.tag(:a, href: @href.call(id), aria_label: "#{name}, #{(share * 100).round} percent", aria_current: id == @here ? "true" : nil, &block)
      end

      def css(id, share)
        ["plan-corner", ("suspect" if share >= 0.05), ("here" if id == @here)].compact.join(" ")
      end

      def text(x, y, share)
        @svg.tag(:text, share < 0.01 ? "–" : [(share * 100).round, 99].min.to_s, x: x, y: y + 6, class: "plan-text")
      end
    end
  end
end
