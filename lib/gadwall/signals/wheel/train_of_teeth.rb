# frozen_string_literal: true

module Gadwall
  module Signals
    # Tooth after tooth: the time from each to the next against a smooth speed, and where on the ring each stands.
    #
    # The smooth speed is the running median of the periods, so that gaps, spikes and one odd tooth do not bend it,
    # while acceleration and the ripple of a hand do.
    class TrainOfTeeth
      HALF_WINDOW = 6
      EXTRA_BELOW = 0.67 # common practice: gap rule for events
      WHOLE_WITHIN = 0.2 # a gap this near to a whole number of periods is that many teeth less one
      MISSING_FROM = 1.75

      # ratio: of the period that follows to the normal one; position: on the ring, from 0; turns: a second, by the
      # smooth speed;
      # spread: 1 and all that this period and the two beside it are longer than normal: a gap whole, however the teeth
      # beside it share it; sure: neither at an end, nor coming to a stop or starting from one, nor nearly lost in the
      # noise, so that a long period tells something.
      Tooth = Struct.new(:time_s, :swing, :ratio, :position, :turns, :spread, :sure)

      # extra_at_s: the moments of edges that were taken out as interference.
      attr_reader :teeth, :extra_at_s

      # passages: Array of Edges::Passage; count: teeth in a turn; floor: swing below which teeth are lost in the noise.
      def initialize(passages, count, floor: 0.0)
        @count = count
        @floor = floor
        @extra_at_s = []
        kept = without_rests(without_extra(passages))
        @teeth = build(kept).freeze
      end

      # Whole turns seen, with a fraction.
      def revolutions
        teeth.empty? ? 0.0 : teeth.last.position / @count.to_f
      end

      # How many pulses are no teeth.
      def extra
        extra_at_s.size
      end

      # How many places on the ring a ratio moves on.
      def self.steps(ratio)
        ratio < MISSING_FROM ? 1 : [ratio.round, 1].max
      end

      # How clearly single teeth stand out, by period or by swing, from those beside them: for choosing the best of
      # several ways to see the same teeth. What is odd about one tooth is seen in one period in the best of them, and
      # smeared over two in others.
      def clearness
        periods = teeth.map { |tooth| tooth.ratio ? (tooth.ratio - 1).abs : 0.0 }
        swings = teeth.map(&:swing)
        standing_out(periods) + standing_out(below_neighbours(swings, 3).map { |low| [low, 0.0].max })
      end

      ODD_PERIOD = 0.1 # of a period
      ODD_SWING = 0.15 # of the swing beside it

      # How odd single teeth are, by period or by swing: the sum of squares, so that one tooth that is odd counts more
      # than two that are half as odd. What noise does is left out.
      def oddness
        inner = teeth.select(&:sure)
        squares(inner.map { |tooth| [tooth.ratio - 1, 1.0].min }, ODD_PERIOD) +
          squares(below_neighbours(inner.map(&:swing), 4), ODD_SWING)
      end

      private

      # By how much of it each swing is less than those about it.
      def below_neighbours(swings, reach)
        swings.each_index.map { |i| 1 - (swings[i] / Quantity::Statistics.median_about(swings, i, reach)) }
      end

      def squares(odd, from)
        odd.sum { |value| value > from ? value**2 : 0.0 }
      end

      # Of those that come again: as many as there are turns, less a few.
      def standing_out(odd)
        apart = (1...(odd.size - 1)).map { |i| odd[i] - [odd[i - 1], odd[i + 1]].max }.sort
        [apart[-[(0.7 * odd.size / @count).floor, 1].max] || 0.0, 0.0].max
      end

      # Passages that come too early and leave a whole period behind when they are taken out: interference.
      def without_extra(passages)
        kept = passages.dup
        6.times do
          smooth = smooth(periods(kept))
          extra = spurious(kept, smooth)
          break if extra.empty?

          @extra_at_s.concat(extra.keys.select { |i| strong?(kept, i) }.map { |i| kept[i].time_s })
          kept = kept.each_with_index.reject { |_, i| extra.include?(i) }.map(&:first)
        end
        kept
      end

      RESTS_BELOW = 0.65 # of the swing beside it
      RESTS_APART = 0.3 # of a period, that the two periods beside it differ

      # Where a tooth is missing, the signal may fall from a peak back to its rest: a step of half the swing, out of
      # time with the teeth. It is none.
      def without_rests(passages)
        own = periods(passages)
        smooth = smooth(own)
        passages.reject.with_index do |passage, i|
          next false if i.zero? || i >= own.size

          together = (own[i - 1] + own[i]) / smooth[i]
          together > 1 + TWO_WITHIN && (together - together.round).abs < TWO_WITHIN &&
            (own[i] - own[i - 1]).abs > RESTS_APART * smooth[i] &&
            passage.swing < RESTS_BELOW * Quantity::Statistics.median(passages[[i - 3, 0].max..(i + 3)].map(&:swing))
        end
      end

      TWO_WITHIN = 0.15

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
          found[i] = true if [own[i - 1], own[i]].min < EXTRA_BELOW * smooth[i] &&
            joined.between?(0.75 * smooth[i], 1.3 * smooth[i])
        end
        found
      end

      # The running median of the periods, over as many on either side: so that it is right while the speed rises or
      # falls. At the ends, of the next ones.
      def smooth(own)
        own.each_index.map do |i|
          half = [HALF_WINDOW, i, own.size - 1 - i].min
          window = half.zero? ? own[[i - 2, 0].max..(i + 2)] : own[(i - half)..(i + half)]
          window.sort[window.size / 2]
        end
      end

      def build(passages)
        own = periods(passages)
        smooth = smooth(own)
        ratios = own.each_index.map { |i| own[i] / smooth[i] }
        steps = in_step(ratios)
        position = 0
        passages.each_with_index.map do |passage, i|
          tooth =
            Tooth.new(
              passage.time_s,
              passage.swing,
              ratios[i],
              position,
              1.0 / ((smooth[i] || smooth.last || 1.0) * @count),
              ratios[i] && spread(own, smooth, i),
              i.between?(ENDS, passages.size - 1 - ENDS) && steady?(own, i) && strong?(passages, i)
            )
          position += steps[i] || 0
          tooth
        end
      end

      # Against what the periods on either side let expect, so that neither acceleration nor a hand's ripple adds
      # anything; a gap shows against the smooth speed as well.
      def spread(own, smooth, i)
        near = (-1..1).select { |k| (i + k).between?(0, own.size - 1) }
        plain = near.sum { |k| (own[i + k] / smooth[i]) - 1 }
        middle, beside = ExpectedPeriod.at(own, i)
        return 1 + plain unless middle

        longer = near.sum { |k| (own[i + k] / (k.zero? ? middle : beside)) - 1 }
        1 + (plain < SHOWS * longer ? plain : longer)
      end

      SHOWS = 0.4 # of what a gap is longer than expected, at least, against the smooth speed
      ENDS = 2
      STRONG = 2.0 # times the floor
      SLOWING = 1.25 # times longer within three periods: stopping, or starting

      def strong?(passages, i)
        Quantity::Statistics.median(passages[[i - 3, 0].max..(i + 3)].map(&:swing)) >= STRONG * @floor
      end

      def steady?(own, i)
        before = i < 4 || own[(i - 2)..(i - 1)].min <= SLOWING * own[(i - 4)..(i - 3)].max
        after = i + 4 >= own.size || own[(i + 1)..(i + 2)].min <= SLOWING * own[(i + 3)..(i + 4)].max
        before && after
      end

      # Places that each period moves on. Where the ring has one gap and its length is not quite a whole number, the
      # teeth to the next gap settle it.
      def in_step(ratios)
        steps = ratios.map { |ratio| self.class.steps(ratio) }
        ratios
          .each_index
          .select { |i| ratios[i] >= GAP_FROM }
          .each_cons(2) do |i, j|
            wanted = @count - (j - i - 1)
            steps[i] = wanted if wanted >= 1 && (wanted - ratios[i]).abs <= WHOLE_TURN_WITHIN
          end
        steps
      end

      GAP_FROM = 1.5 # periods, that may be one place or two
      WHOLE_TURN_WITHIN = 0.85 # periods, that the ring's length may correct a gap by
    end
  end
end
