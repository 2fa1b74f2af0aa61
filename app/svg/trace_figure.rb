# frozen_string_literal: true

module Web
  module Svg
    # What a capture showed, as it stands in a report: of a tone ring the period of each tooth over the usual, with the
    # limit from which a gap is told; of anything else the band between its least and its most, over time.
    class TraceFigure
      WIDTH = 1180
      HEIGHT = 190
      LEFT = 60
      TOP = 22
      BOTTOM = 34
      GAP_FROM = 1.2 # formats: where a gap begins

      # analysis: Hash of a stored capture, as `bin/gadwall capture --view` prints it.
      def initialize(analysis)
        @ring = analysis["ring"].to_a
        @plot = analysis["overview"].to_a.first
        @svg = Element.new
      end

      # Is there anything to draw?
      def any?
        @ring.any? || blocks.any?
      end

      def to_s
        @svg.tag(:svg, viewBox: "0 0 #{WIDTH} #{HEIGHT}", role: "img", class: "trace-figure", aria_label: words) do
          @ring.any? ? teeth : band
        end
        @svg.to_s
      end

      private

      def words
        return "Period of each tooth over the usual, #{@ring.size} teeth" if @ring.any?

        "#{@plot["title"]} over time, least and most"
      end

      def teeth
        periods = @ring.map { |tooth| tooth["period"].to_f }
        axes([0.0, [periods.max, GAP_FROM].max * 1.15], "period over the usual", "tooth 1 to #{@ring.size}")
        @svg.tag(:line, x1: LEFT, x2: WIDTH - 8, y1: y(GAP_FROM), y2: y(GAP_FROM), class: "trace-limit")
        points = periods.each_with_index.map { |period, i| "#{x(i, periods.size - 1)},#{y(period)}" }
        @svg.tag(:polyline, points: points.join(" "), class: "trace-line")
      end

      # A pause, in which nothing was sampled, is a gap in the band.
      def band
        known = blocks.filter_map { |_, _, least, most| [least, most] if least }
        axes([known.map(&:first).min, known.map(&:last).max], @plot["unit"], "#{blocks.last[1].round(1)} s")
        from = blocks.first[0]
        length = blocks.last[1] - from
        runs.each do |run|
          at = ->(block) { x(((block[0] + block[1]) / 2.0) - from, length) }
          upper = run.map { |block| "#{at.call(block)},#{y(block[3])}" }
          lower = run.map { |block| "#{at.call(block)},#{y(block[2])}" }
          @svg.tag(:polyline, points: (upper + lower.reverse + upper.first(1)).join(" "), class: "trace-line")
        end
      end

      # [[from, upto, least, most], ...] in seconds; least and most nil where nothing was sampled; [] without a sample.
      def blocks
        @blocks ||=
          begin
            rows =
              (@plot && @plot["rows"]).to_a.map { |from, upto, series| [from, upto, *(series.first || [nil, nil])] }
            rows.any? { |row| row[2] } ? rows : []
          end
      end

      # Blocks one after the other that have samples.
      def runs
        blocks.slice_when { |one, other| one[2].nil? != other[2].nil? }.select { |run| run.first[2] }
      end

      def axes(range, unit, length)
        low, high = range
        high = low + 1 if high <= low
        @low = low
        @high = high
        [low, (low + high) / 2, high].each do |value|
          @svg.tag(:line, x1: LEFT, x2: WIDTH - 8, y1: y(value), y2: y(value), class: "strip-grid")
          @svg.tag(
            :text,
            value.round(2),
            x: LEFT - 6,
            y: y(value) + 5,
            class: "strip-axis strip-number",
            text_anchor: "end"
          )
        end
        @svg.tag(:text, unit, x: 2, y: 14, class: "strip-axis")
        @svg.tag(:text, length, x: LEFT, y: HEIGHT - 8, class: "strip-axis")
      end

      # index: a count or seconds, of so many at the right edge.
      def x(index, last)
        (LEFT + ((WIDTH - LEFT - 8) * index / (last.positive? ? last : 1).to_f)).round(1)
      end

      def y(value)
        (HEIGHT - BOTTOM - ((HEIGHT - BOTTOM - TOP) * (value - @low) / (@high - @low))).round(1)
      end
    end
  end
end
