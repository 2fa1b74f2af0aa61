# frozen_string_literal: true

module Gadwall
  module Signals
    # What does not keep time with the wheel: wiring and interference. Part of WheelSpeed.
    module WiringFindings
      LOST_FROM = 1.5 # common practice: gap rule for events
      SHORT = 2.5 # periods: one tooth lost, not more
      SPIKE = 1.6 # times its neighbours' swing, once and not each turn

      private

      # A gap of the ring, or a neighbour that shares it.
      def near_gap?(tooth, ring)
        [-1, 0, 1].any? { |offset| ring.include?((tooth.position + offset) % @count) }
      end

      # Indices of the teeth behind which the signal breaks off. A short gap with an edge too many at it is
      # interference.
      def broken_off
        teeth = train.teeth
        @broken_off ||=
          teeth.each_index.select do |i|
            teeth[i].ratio && teeth[i].ratio >= LOST_FROM && teeth[i].sure && !disturbed?(i)
          end
      end

      # Is there interference at this gap? What it covers is not lost by the wiring.
      def disturbed?(index)
        teeth = train.teeth
        around = teeth[[index - 1, 0].max].time_s..teeth[[index + 2, teeth.size - 1].min].time_s
        train.extra_at_s.any? { |at| around.cover?(at) }
      end

      # Gaps that do not keep time with the wheel.
      def dropouts(ring)
        loose = broken_off.reject { |i| near_gap?(train.teeth[i], ring) }
        return if loose.empty?

        count = 1 + loose.each_cons(2).count { |a, b| b - a > 2 } # a gap seen from both its ends is one
        add(
          "dropouts",
          [0.6 + (0.1 * count), 0.97].min,
          "The signal drops out #{count == 1 ? "once" : "#{count} times"}, at no fixed place of the ring: " \
            "connector, wiring or air gap.",
          at_s: loose.map { |i| train.teeth[i].time_s },
          count: count
        )
      end

      # Interference between the teeth.
      def passing
        spikes = spikes_at_s
        count = train.extra + (spikes.empty? ? 0 : 1 + spikes.each_cons(2).count { |(i, _), (j, _)| j - i > 2 })
        return if count.zero?

        add(
          "extra_edges",
          [0.6 + (0.1 * count), 0.97].min,
          "#{count} extra pulses, at no fixed place of the ring: interference, or a harness beside an ignition or " \
            "motor cable.",
          at_s: (train.extra_at_s + spikes.map(&:last)).sort,
          count: count
        )
      end

      # Interference that fell on a tooth and only made it taller: [[index, seconds], ...].
      def spikes_at_s
        swings = train.teeth.map(&:swing)
        # a signal that comes and goes jumps further than from tooth to gap
        lost = broken_off.flat_map { |i| [i, i + 1] }
        tall =
          swings.each_index.select do |i|
            train.teeth[i].sure && swings[i] > SPIKE * Quantity::Statistics.median_about(swings, i, 4)
          end - lost
        loose =
          tall.reject do |i|
            tall.any? { |j| i != j && ((train.teeth[i].position - train.teeth[j].position) % @count).zero? }
          end
        loose.map { |i| [i, train.teeth[i].time_s] }
      end
    end
  end
end
