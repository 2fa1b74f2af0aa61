# frozen_string_literal: true

module Gadwall
  module Signals
    # Finds the teeth in a sampled wheel-speed signal: turning points with hysteresis (a reversal counts once it exceeds
    # a share of the swings of late, and the noise), and between them the moments at which the signal passes its middle.
    #
    # Amplitude may follow speed and the zero may wander: both are tracked from tooth to tooth. Passive and active
    # sensors alike.
    class Edges
      REVERSAL_SHARE = 0.28 # of the swings of late; a damaged tooth keeps more
      PAST_MIDDLE = 0.6 # of the way from one turning point to the next
      OF_LATE = 9 # swings, the third smallest of which is the usual one: a few spikes teach nothing
      NOISE_SIGMAS = 10.0 # from lowest to highest: the widest that some hundred thousand samples of noise reach

      MOST_NOISE = 0.2 # of the range, where the signal itself is rough
      ROUGHER = 1.5 # times rougher over two samples than over one: that is the signal
      GOES_ON = 0.25 # correlation with one of the next three samples
      LOOKED_AT = 6000 # samples, spread over the capture, that tell noise from signal

      # One passage through the middle. time_s; swing: peak to peak of the tooth it belongs to; steep: volts a second.
      Passage = Struct.new(:time_s, :swing, :steep)

      # noise: sigma; in_noise: so much from lowest to highest may be nothing but noise.
      attr_reader :noise, :in_noise

      # Sigma of a signal's noise; ten points a tooth have hardly any second differences of their own.
      def self.noise(values, lag: 1)
        Smoothing.noise(values, lag: lag, most: LOOKED_AT)
      end

      # time_s, values: Arrays of Float; least_share: of the whole range, that a reversal has at least (two levels are
      # far apart).
      def initialize(time_s, values, least_share: 0.01)
        @t = time_s
        @v = values
        @noise = self.class.noise(values)
        @span = Span.new(values, @noise)
        @range = @span.width
        reach = @noise * NOISE_SIGMAS
        @in_noise =
          if noise_alone? || (reach < @range && self.class.noise(values, lag: 2) < ROUGHER * @noise)
            reach
          else
            [reach, @range * MOST_NOISE].min
          end
        @floor = [@in_noise, @range * least_share].max
      end

      # With few samples a tooth the signal itself looks like noise to its second differences; but what is nothing but
      # noise has nothing to do with the samples that follow. A few far ones do not count.
      def noise_alone?
        return @noise_alone unless @noise_alone.nil?

        at = (0...(@v.size - 3)).step([@v.size / LOOKED_AT, 1].max)
        own, *later = (0..3).map { |lag| at.map { |i| @v[i + lag].clamp(@span.low, @span.high) } }
        mean = own.sum / [own.size, 1].max
        power = own.sum { |value| (value - mean)**2 }
        @noise_alone =
          power.zero? ||
            later.none? { |values| own.zip(values).sum { |a, b| (a - mean) * (b - mean) }.abs > GOES_ON * power }
      end

      # [rising passages, falling passages], each an Array of Passage in time order.
      def passages
        @passages ||=
          begin
            pieces = turning_points.each_cons(2).map { |(i, from), (j, to)| [to > from, passage(i, j, from, to)] }
            pieces.select(&:last).partition(&:first).map { |part| part.map(&:last) }
          end
      end

      # The same as the middles of pulses, for a sensor of two levels: [of the high ones, of the low ones]. A tooth that
      # is narrower than others does not move its middle.
      def middles
        self.class.middles(*passages)
      end

      # rising, falling: Arrays of Passage.
      def self.middles(rising, falling)
        [middles_of(rising, falling), middles_of(falling, rising)]
      end

      def self.middles_of(starts, ends)
        k = 0
        starts.filter_map do |start|
          k += 1 while k < ends.size && ends[k].time_s <= start.time_s
          ending = ends[k] or next
          Passage.new((start.time_s + ending.time_s) / 2, start.swing, start.steep)
        end
      end
      private_class_method :middles_of

      private

      # [[index, value], ...], peaks and troughs in turn.
      def turning_points # rubocop:disable Metrics/MethodLength -- one pass, step by step
        points = []
        late = []
        limit = @floor
        low_at = high_at = 0
        low = high = @v[0]
        up = nil
        i = 0
        size = @v.size
        while i < size
          v = @v[i]
          if v > high
            high = v
            high_at = i
          end
          if v < low
            low = v
            low_at = i
          end
          if up != false && high - v > limit
            points << [high_at, high] unless up.nil? && points.any?
            limit = [usual(late, points) * REVERSAL_SHARE, @floor].max
            up = false
            low = v
            low_at = i
          elsif up != true && v - low > limit
            points << [low_at, low]
            limit = [usual(late, points) * REVERSAL_SHARE, @floor].max
            up = true
            high = v
            high_at = i
          end
          if up == false && v > high
            high = v
            high_at = i
          end
          i += 1
        end
        points
      end

      # The usual swing of late, with the newest in it.
      def usual(late, points)
        return 0.0 if points.size < 2

        late << (points[-1][1] - points[-2][1]).abs
        late.shift if late.size > OF_LATE
        [late.sort[late.size / 3], @range].min
      end

      # The moment a little past the middle between two turning points, between two samples: where the signal rests at
      # its middle before a tooth, it is the tooth's own slope that counts, not the end of the one before. The last
      # sample before it counts.
      def passage(i, j, from, to)
        level = from + (PAST_MIDDLE * (to - from))
        k = j
        k -= 1 while k > i && (to > from ? @v[k - 1] >= level : @v[k - 1] <= level)
        return if k.zero? || k <= i

        a = @v[k - 1]
        b = @v[k]
        share = b == a ? 0.5 : (level - a) / (b - a)
        time = @t[k - 1] + (share * (@t[k] - @t[k - 1]))
        Passage.new(time, (to - from).abs, steepness(i, k, from, to, time))
      end

      # Volts a second over the middle: from as much before it as the passage's moment is past it.
      def steepness(i, k, from, to, time)
        level = from + ((1 - PAST_MIDDLE) * (to - from))
        k -= 1 while k > i && (to > from ? @v[k - 1] >= level : @v[k - 1] <= level)
        span = time - @t[[k - 1, i].max]
        span.positive? ? ((2 * PAST_MIDDLE) - 1) * (to - from).abs / span : 0.0
      end
    end
  end
end
