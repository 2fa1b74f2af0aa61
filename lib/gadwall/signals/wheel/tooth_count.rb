# frozen_string_literal: true

module Gadwall
  module Signals
    # How many teeth it takes until the ring's own pattern (gaps, amplitudes, small unevenness) comes back. The places
    # are laid out in rows of a candidate length; what the means of the columns explain of all the variance, less what
    # chance would, is how well that length fits (analysis of variance; handbook: statistics, from memory). Three rows
    # at least: two odd events can stand one above the other by chance.
    module ToothCount
      LENGTHS = (12..200)
      LEAST_ROWS = 3
      CLEAR = 0.7 # share explained from which a pattern is one
      LEAST_VARIANCE = 2e-4 # of a place: under 1.5 percent unevenness it may be the hand's or the road's
      COIL_BETWEEN = 1.0 # of the time from sample to sample, that a period is uncertain by: a coil's slope
      LEVELS_BETWEEN = 1.5 # tells more than an edge between two levels
      BETTER = 1.8 # times what the expected count explains

      NOTHING_ADDED = 0.02 # of the variance explained: the longer of two counts tells no more
      GAP_FROM = 1.2 # periods, as WheelSpeed takes them
      ALIKE_WITHIN = 0.25 # of one another
      LEAST_EQUAL = 3 # ways from gap to gap
      EQUAL_SHARE = 0.7 # of all
      NEARLY = 0.1 # of a period above the least gap that lacks a tooth
      TWO_ALIKE_WITHIN = 0.08 # of one another: where the capture has but three gaps

      # teeth: of a TrainOfTeeth; expected: Integer; swings: does a tooth's swing tell of it (with two levels it is
      # noise)? points: samples a tooth, which at a steady speed make a pattern of their own. Returns another count, or
      # nil where the expected one fits or none is clear.
      def self.of(teeth, expected, swings: true, points: Float::INFINITY)
        pattern = pattern(teeth, swings)
        clear =
          pattern.sum { |value| value**2 } >
            pattern.size * [LEAST_VARIANCE, ((swings ? COIL_BETWEEN : LEVELS_BETWEEN) / points)**2].max
        other = by_gaps(teeth, expected) || (clear ? by_pattern(pattern, expected) : nil)
        other if other && other != expected && (!multiple?(other, expected) || turn?(pattern, other, expected))
      end

      def self.multiple?(other, expected)
        (other % expected).zero? || (expected % other).zero?
      end

      # Of two counts of which one is a multiple of the other: which of them is a turn? A ring comes back after its own
      # count and after each multiple of it; so the longer one is the turn only where the shorter does not do as well,
      # and the shorter only where the longer adds nothing.
      def self.turn?(pattern, other, expected)
        return false if [other, expected].max * 2 > pattern.size

        own = fit(pattern, other)
        return own >= CLEAR && own > BETTER * [fit(pattern, expected), 0.05].max if other > expected

        own >= CLEAR && fit(pattern, expected) <= own + NOTHING_ADDED
      end

      # By the way from gap to gap, where nearly all are the same number of teeth.
      def self.by_gaps(teeth, expected)
        gaps = teeth.select { |tooth| tooth.ratio && tooth.ratio >= GAP_FROM }
        usual = Quantity::Statistics.median(gaps.map(&:ratio)) or return
        ways =
          gaps
            .select { |tooth| (tooth.ratio - usual).abs <= ALIKE_WITHIN * usual }
            .map(&:position)
            .each_cons(2)
            .map { |a, b| b - a }
        way, count = ways.tally.max_by(&:last)
        return unless count.to_i >= EQUAL_SHARE * ways.size && LENGTHS.cover?(way)
        # a ring sprung so wide that it looks like a tooth lost
        return if way == expected + 1 && usual < TrainOfTeeth::MISSING_FROM + NEARLY

        if count >= LEAST_EQUAL ||
             (
               count == 2 && gaps.size == 3 &&
                 gaps.all? { |tooth| (tooth.ratio - usual).abs <= TWO_ALIKE_WITHIN * usual }
             )
          way
        end
      end

      def self.by_pattern(pattern, expected)
        fits =
          LENGTHS
            .select { |length| length * LEAST_ROWS <= pattern.size }
            .to_h { |length| [length, fit(pattern, length)] }
        best, share = fits.max_by { |length, value| [value.round(2), -length] }
        return if best.nil? || share < CLEAR || best == expected

        best if share > BETTER * [fits.fetch(expected) { fit(pattern, expected) }, 0.05].max
      end

      # By place: how odd the period is and how odd the swing beside its neighbours'; nothing where neither is sure.
      def self.pattern(teeth, with_swings)
        return [] if teeth.empty?

        rows = Array.new(teeth.last.position + 1, 0.0)
        swings = teeth.map(&:swing)
        teeth.each_with_index do |tooth, i|
          next unless tooth.sure

          rows[tooth.position] += (tooth.ratio.clamp(0.3, 2.5) - 1) if tooth.ratio
          next unless with_swings

          beside = Quantity::Statistics.median_about(swings, i, 12)
          rows[tooth.position] += ((tooth.swing / beside) - 1).clamp(-0.8, 0.8) if beside.positive?
        end
        sharp(rows)
      end

      # Against the places on either side: a tooth of its own keeps its oddness, what swells and sinks over many teeth
      # (the hand, the road) loses it.
      def self.sharp(rows)
        rows.each_index.map { |i| rows[i] - ((rows[[i - 1, 0].max] + rows[[i + 1, rows.size - 1].min]) / 2) }
      end

      # Share of the variance that the columns explain, beyond chance.
      def self.fit(pattern, length)
        mean = pattern.sum / pattern.size
        whole = pattern.sum { |value| (value - mean)**2 }
        return 0.0 if whole.zero? || pattern.size < length * 2

        explained =
          (0...length).sum do |column|
            values = column.step(pattern.size - 1, length).map { |i| pattern[i] }
            values.size * (((values.sum / values.size) - mean)**2)
          end
        chance = length / pattern.size.to_f
        ((explained / whole) - chance) / (1 - chance)
      end
      private_class_method :multiple?, :turn?, :by_gaps, :by_pattern, :pattern, :sharp, :fit
    end
  end
end
