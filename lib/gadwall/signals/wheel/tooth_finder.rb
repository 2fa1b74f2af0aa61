# frozen_string_literal: true

module Gadwall
  module Signals
    # The teeth of a wheel-speed signal, seen in the way that shows them best: where what is odd about one tooth is
    # whole, or at the steeper side of each (a coil), at an edge or in the middle of a pulse (two levels).
    class ToothFinder
      LEAST_TEETH = 6
      OVER_NOISE = 0.8 # of what noise may reach, that the usual swing must exceed
      NEAR_LEVEL = 0.15 # of the way from level to level
      LEVELS_SHARE = 0.8 # of the samples near one of two levels: an active sensor
      LEVELS_APART = 0.3 # of the way from level to level: less is no edge
      STEEPER = 1.4 # so much steeper at one kind of passage: that is where the teeth's middles are
      ODDER = 1.25 # so much more what is odd about single teeth is gathered in one kind of passage
      EDGES_BY = 0.08 # so much clearer edges must be than middles: a narrow tooth moves its edges

      # sensor: "passive" or "active", as given or found out; floor: swing below which teeth are lost in the noise;
      # mains_hz: where the signal is, but for noise, a sine of the mains' frequency.
      attr_reader :sensor, :floor, :mains_hz

      # capture, channel: Capture and one of its channels; count: teeth in a turn, as far as known; sensor: or nil to
      # find out.
      def initialize(capture, channel, count:, sensor: nil)
        @capture = capture
        @channel = channel
        @count = count
        @sensor = sensor || (two_levels? ? "active" : "passive")
        @floor = 0.0
      end

      # Array of Edges::Passage, one for each tooth, in time order; empty where there is no signal.
      def passages
        @passages ||= best_of(*(@capture.edges_only ? logic : sampled)) || []
      end

      # TrainOfTeeth of the passages, with so many in a turn.
      def train(count = @count, of: passages)
        (@trains ||= {}.compare_by_identity)[of] ||= {}
        @trains[of][count] ||= TrainOfTeeth.new(of, count, floor: @floor)
      end

      # Does the signal rest at one of two levels nearly always?
      def two_levels?
        return true if @capture.edges_only

        span = Span.new(@channel.values, Edges.noise(@channel.values))
        near = NEAR_LEVEL * span.width
        at = (0...@channel.values.size).step([@channel.values.size / Span::SAMPLED, 1].max)
        at.count { |i| @channel.values[i] < span.low + near || @channel.values[i] > span.high - near } >
          LEVELS_SHARE * at.size
      end

      private

      # [crossings, middles], each [of what rises, of what falls]; a coil has no middles of pulses.
      def sampled
        edges = without_hum
        @floor = edges.in_noise
        [edges.passages, sensor == "active" ? edges.middles : []]
      end

      # With the mains taken out where that makes the teeth more regular: a harmonic of the teeth may lie on its line.
      def without_hum
        plain = edges_of(@channel.values)
        return plain if plain.noise_alone?

        left = Hum.removed(@capture.time_s, @channel.values)
        return plain if left.equal?(@channel.values)

        cleaned = edges_of(left)
        @mains_hz = Hum.all_of_it(@capture.time_s, @channel.values, left, noise: cleaned.noise_alone?)
        @mains_hz ? plain : [plain, cleaned].min_by { |edges| irregularity(edges) }
      end

      def edges_of(values)
        Edges.new(@capture.time_s, values, **(sensor == "active" ? { least_share: LEVELS_APART } : {}))
      end

      # Mean distance of the periods from the smooth ones, of what rises or falls, whichever is better.
      def irregularity(edges)
        edges
          .passages
          .map do |passages|
            ratios = TrainOfTeeth.new(passages, @count, floor: edges.in_noise).teeth.filter_map(&:ratio)
            if ratios.size < LEAST_TEETH
              Float::INFINITY
            else
              ratios.sum { |ratio| [(ratio - 1).abs, 0.5].min } / ratios.size
            end
          end
          .min
      end

      def logic
        crossings =
          [1.0, 0.0].map do |level|
            @capture
              .time_s
              .zip(@channel.values)
              .filter_map { |time, value| Edges::Passage.new(time, 1.0, 1.0) if value == level }
          end
        [crossings, Edges.middles(*crossings)]
      end

      def best_of(*kinds)
        crossings, middles =
          kinds.map { |kind| kind.select { |passages| passages.size >= LEAST_TEETH && strong?(passages) } }
        (sensor == "passive" && (odder(crossings) || steeper(crossings))) || clearest(crossings, middles)
      end

      def strong?(passages)
        Quantity::Statistics.median(passages.map(&:swing)) > OVER_NOISE * @floor
      end

      # A tooth is narrow on one ring and wide on another, so that its middle may be the steeper side or the flatter
      # one. What is odd about one tooth is whole where its two flanks are seen together, and halved where each is seen
      # with a neighbour's.
      def odder(both)
        return if both.size < 2

        whole, halved =
          both.map { |passages| [passages, train(of: passages).oddness] }.sort_by { |_, oddness| -oddness }
        whole.first if whole.last > ODDER * halved.last
      end

      def steeper(both)
        return if both.size < 2

        steep, flat = both.sort_by { |passages| -Quantity::Statistics.median(passages.map(&:steep)) }
        if Quantity::Statistics.median(steep.map(&:steep)) > STEEPER * Quantity::Statistics.median(flat.map(&:steep))
          steep
        end
      end

      # By how they hold together what is odd about single teeth.
      def clearest(crossings, middles)
        by = middles.empty? ? 0.0 : EDGES_BY
        [
          *crossings.map { |passages| [passages, clearness(passages) - by] },
          *middles.map { |passages| [passages, clearness(passages)] }
        ].max_by(&:last)&.first
      end

      def clearness(passages)
        train(of: passages).clearness
      end
    end
  end
end
