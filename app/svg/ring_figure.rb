# frozen_string_literal: true

module Web
  module Svg
    # A tone ring as a capture saw it: each tooth at its angle, as tall as its amplitude; a gap as wide as its period.
    # Bad teeth are told by shape and number: missing ones as open rings, low ones with a dot, wide gaps by their width.
    class RingFigure
      SIZE = 320
      CENTRE = 160.0
      BORE = 78.0
      FOOT = 100.0
      TALL = 30.0

      # teeth: [{"tooth", "period", "amplitude"}, ...] by place; bad: {tooth => kind of finding}.
      def initialize(teeth, bad: {})
        @teeth = teeth
        @bad = bad
        @svg = Element.new
      end

      def to_s
        @svg.tag(
          :svg,
          viewBox: "0 0 #{SIZE} #{SIZE}",
          role: "img",
          class: "ring-figure",
          aria_label: "Ring of #{@teeth.size} teeth#{", #{words}" unless @bad.empty?}"
        ) do
          @svg.tag(:circle, cx: CENTRE, cy: CENTRE, r: FOOT, class: "ring-foot")
          @svg.tag(:circle, cx: CENTRE, cy: CENTRE, r: BORE, class: "ring-bore")
          @teeth.each_with_index { |tooth, i| tooth(tooth, i) }
          @svg.tag(:text, @teeth.size.to_s, x: CENTRE, y: CENTRE + 8, class: "ring-count")
        end
        @svg.to_s
      end

      private

      def words
        @bad.map { |tooth, kind| "tooth #{tooth} #{kind.tr("_", " ")}" }.join(", ")
      end

      # From the top, clockwise; a wide gap takes the room that it takes on the ring.
      def angle(index)
        (starts[index] / starts.last * 2 * Math::PI) - (Math::PI / 2)
      end

      # Where each tooth stands, in normal periods, and the whole turn last. The period before missing teeth is shared
      # among them.
      def starts
        @starts ||=
          @teeth
            .slice_when { |_, tooth| tooth["period"] }
            .flat_map { |run| [(run.first["period"] || 1.0) / run.size] * run.size }
            .reduce([0.0]) { |at, gap| at + [at.last + gap] }
      end

      def at(angle, radius)
        [(CENTRE + (radius * Math.cos(angle))).round(1), (CENTRE + (radius * Math.sin(angle))).round(1)]
      end

      # A group for each, with its figures, so that a page can say them.
      def tooth(tooth, index)
        kind = @bad[tooth["tooth"]]
        height = tooth["amplitude"] ? TALL * tooth["amplitude"].clamp(0.0, 1.4) : 0.0
        @svg.tag(
          :g,
          class: "ring-place",
          data_tooth: tooth["tooth"],
          data_period: tooth["period"],
          data_amplitude: tooth["amplitude"],
          data_kind: kind&.tr("_", " ")
        ) do
          @svg.tag(:path, d: sector(index), class: "ring-sector")
          block(index, height, kind) if height.positive? && kind != "missing_teeth"
          mark(tooth, index, kind) if kind
        end
      end

      # Room for a finger, from the foot to beyond the tallest tooth.
      def sector(index)
        half = Math::PI / starts.last
        corners =
          [
            [-half, FOOT - 16],
            [-half, FOOT + (TALL * 1.5)],
            [half, FOOT + (TALL * 1.5)],
            [half, FOOT - 16]
          ].map { |turn, radius| at(angle(index) + turn, radius).join(" ") }
        "M#{corners.join(" L")} Z"
      end

      def block(index, height, kind)
        half = 0.28 * 2 * Math::PI / starts.last
        corners = [
          at(angle(index) - half, FOOT),
          at(angle(index) - half, FOOT + height),
          at(angle(index) + half, FOOT + height),
          at(angle(index) + half, FOOT)
        ]
        @svg.tag(
          :path,
          d: "M#{corners.map { |x, y| "#{x} #{y}" }.join(" L")} Z",
          class: kind ? "ring-tooth bad" : "ring-tooth"
        )
      end

      def mark(tooth, index, kind)
        x, y = at(angle(index), FOOT + (TALL * 0.5))
        @svg.tag(:circle, cx: x, cy: y, r: 6, class: "ring-missing") if kind == "missing_teeth"
        bx, by = at(angle(index), FOOT - 12)
        @svg.tag(:circle, cx: bx, cy: by, r: 3.5, class: "ring-low") if kind == "damaged_tooth"
        tx, ty = at(angle(index), FOOT + TALL + 16)
        @svg.tag(:text, tooth["tooth"].to_s, x: tx, y: ty + 4, class: "ring-number")
      end
    end
  end
end
