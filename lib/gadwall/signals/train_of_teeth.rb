# frozen_string_literal: true

module Gadwall
  module Signals
    # Tooth after tooth: the time from each to the next against a smooth speed, and where on the ring each stands.
    #
    # The smooth speed is the running median of the periods, so that gaps, spikes and one odd tooth do not bend it, while
    # acceleration and the ripple of a hand do.
    class TrainOfTeeth
      HALF_WINDOW = 6
      EXTRA_BELOW = 0.67      # common practice: gap rule for events
      WHOLE_WITHIN = 0.2      # a gap this near to a whole number of periods is that many teeth less one
      MISSING_FROM = 1.75

      # ratio: of the period that follows to the normal one; position: on the ring, from 0; turns: a second, by the smooth speed.
      Tooth = Struct.new(:time_s, :swing, :ratio, :position, :turns)

      # extra_at_s: the moments of edges that were taken out as interference.
      attr_reader :teeth, :extra_at_s

      # passages: Array of Edges::Passage; count: teeth in a turn.
      def initialize(passages, count)
        @count = count
        @extra_at_s = []
        kept = without_extra(passages)
        @teeth = build(kept).freeze
      end

      # Whole turns seen, with a fraction.
      def revolutions
        teeth.empty? ? 0.0 : teeth.last.position / @count.to_f
      end

      def extra
        extra_at_s.size
      end

      # How many places on the ring a ratio moves on.
      def self.steps(ratio)
        ratio < MISSING_FROM ? 1 : [ratio.round, 1].max
      end

      # How odd the oddest teeth are, by period and by swing, of those that come again: for choosing the better of two ways to
      # see the teeth.
      def oddest
        ratios = teeth.filter_map(&:ratio).map { |ratio| (ratio - 1).abs }.sort
        swings = teeth.map(&:swing)
        low = swings.each_index.map { |i| 1 - (swings[i] / RingMap.median(swings[[i - 3, 0].max..(i + 3)])) }.sort
        rank = [teeth.size / 60, 1].max
        (ratios[-rank] || 0.0) + [low[-rank] || 0.0, 0.0].max
      end

      private

      # Passages that come too early and leave a whole period behind when they are taken out: interference.
      def without_extra(passages)
        kept = passages.dup
        6.times do
          smooth = smooth(periods(kept))
          extra = spurious(kept, smooth)
          break if extra.empty?

          @extra_at_s.concat(extra.keys.map { |i| kept[i].time_s })
          kept = kept.each_with_index.reject { |_, i| extra.include?(i) }.map(&:first)
        end
        kept
      end

      def periods(passages)
        passages.each_cons(2).map { |a, b| b.time_s - a.time_s }
      end

      # Indices of passages to take out, none beside another.
      def spurious(passages, smooth)
        own = periods(passages)
        found = {}
        (1...own.size).each do |i|
          next if found[i - 1]

          joined = own[i - 1] + own[i]
          found[i] = true if [own[i - 1], own[i]].min < EXTRA_BELOW * smooth[i] && joined.between?(0.75 * smooth[i], 1.3 * smooth[i])
        end
        found
      end

      def smooth(own)
        own.each_index.map do |i|
          half = [HALF_WINDOW, i, own.size - 1 - i].min
          half = [HALF_WINDOW, own.size / 2].min if half < 3
          window = own[[i - half, 0].max..[i + half, own.size - 1].min]
          window.sort[window.size / 2]
        end
      end

      def build(passages)
        own = periods(passages)
        smooth = smooth(own)
        position = 0
        passages.each_with_index.map do |passage, i|
          ratio = i < own.size ? own[i] / smooth[i] : nil
          tooth = Tooth.new(passage.time_s, passage.swing, ratio, position, 1.0 / ((smooth[i] || smooth.last || 1.0) * @count))
          position += ratio ? self.class.steps(ratio) : 0
          tooth
        end
      end
    end
  end
end
