# frozen_string_literal: true

require "json"

module Gadwall
  module Signals
    # What a viewer draws of a capture: panels, one above the other, each with its own times and one or more series.
    class Waveform
      # title, unit: text; time_s: Array of Float, rising; series: {name => Array of Float, as many}; steps: holds each
      # value until the next.
      Panel = Struct.new(:title, :unit, :time_s, :series, :steps, keyword_init: true)
      MOST_SAMPLES = 2_000_000 # of a panel; from there on the least and the most of each few samples stand for them
      EVEN_WITHIN = 0.02 # of a step
      ROWS = 24

      attr_reader :panels

      def initialize(panels)
        @panels = panels.reject { |panel| panel.time_s.size < 2 || panel.series.empty? }.freeze
      end

      # A panel for each channel of a capture, the one that was analysed first; then more panels.
      def self.of(capture, first: nil, more: [])
        channels = [first, *capture.channels.reject { |each| each.equal?(first) }].compact
        new(
          channels.map do |each|
            Panel.new(
              title: each.name,
              unit: each.unit,
              time_s: capture.time_s,
              series: {
                each.name => each.values
              },
              steps: capture.edges_only
            )
          end + more
        )
      end

      # Seconds, from the first sample to the last of all panels.
      def span
        [panels.map { |panel| panel.time_s.first }.min || 0.0, panels.map { |panel| panel.time_s.last }.max || 0.0]
      end

      # Bytes for a browser: a line of JSON, padded to a multiple of eight bytes, then for each panel its times
      # (little-endian
      # 64-bit floats; none where they are even) and each of its series (32-bit floats), each padded likewise.
      def to_bytes
        parts = []
        heads = panels.map { |panel| head(panel, parts) }
        line = JSON.generate(panels: heads)
        out = "#{line}#{" " * (-(line.bytesize + 1) % 8)}\n".b
        parts.each { |part| out << part << ("\0" * (-part.bytesize % 8)) }
        out
      end

      # Rows in words for those who do not see the drawing: [[from, to, [[least, most] of each series]], ...] of one
      # panel.
      def table(panel, rows: ROWS)
        times = panel.time_s
        from = times.first
        step = (times.last - from) / rows.to_f
        bounds = (0..rows).map { |k| k == rows ? times.size : times.bsearch_index { |time| time >= from + (k * step) } }
        bounds
          .each_cons(2)
          .with_index
          .map do |(a, b), k|
            [
              (from + (k * step)).round(6),
              (from + ((k + 1) * step)).round(6),
              panel.series.values.map { |values| b > a ? values[a...b].minmax.map { |value| value.round(4) } : nil }
            ]
          end
      end

      private

      def head(panel, parts)
        panel = thinned(panel)
        even = even_step(panel.time_s)
        parts << panel.time_s.pack("E*") unless even
        panel.series.each_value { |values| parts << values.pack("e*") }
        {
          title: panel.title,
          unit: panel.unit,
          steps: panel.steps ? true : false,
          samples: panel.time_s.size,
          series: panel.series.keys,
          even: even
        }
      end

      # [first, step] in seconds, or nil.
      def even_step(times)
        step = (times.last - times.first) / (times.size - 1)
        from = times.first
        i = 0
        while i < times.size
          return nil if (times[i] - from - (i * step)).abs > EVEN_WITHIN * step

          i += 1
        end
        [from, step]
      end

      def thinned(panel)
        size = panel.time_s.size
        return panel if size <= MOST_SAMPLES

        width = (2.0 * size / MOST_SAMPLES).ceil
        starts = (0...size).step(width).to_a
        times = starts.flat_map { |i| [panel.time_s[i], panel.time_s[[i + (width / 2), size - 1].min]] }
        series = panel.series.transform_values { |values| starts.flat_map { |i| values[i, width].minmax } }
        Panel.new(**panel.to_h, time_s: times, series: series)
      end
    end
  end
end
