# frozen_string_literal: true

module Gadwall
  module Signals
    # The pressure of an accumulator over time: when its pump cuts in and out, how long it runs and rests, how fast
    # pressure leaks down, what gas there is.
    class PumpPressure
      include Findings

      SMOOTH_S = 0.2
      TURN_BAR = 4.0 # a turn of the curve counts from here, or from TURN_SIGMAS of the noise
      TURN_SIGMAS = 11.0
      NEAR_BAR = 1.0 # of a turn: it is reached; or within NEAR_SIGMAS of the noise
      NEAR_SIGMAS = 2.5
      RISES_BAR_S = 0.3 # bar a second, from which the pump runs
      LEAK_OVER_S = 3.0 # falls are measured over so long: a stroke of the pedal is quicker and does not count
      LEAK_REST_S = 5.0 # a rest must last so long for its fall to be judged
      EMPTY_SHARE = 0.25 # of the highest pressure, below which it starts empty
      FULL_SHARE = 0.7 # of it, from which a run has filled it
      LOST_PRECHARGE_BAR = 40.0 # from memory: accumulators are charged to some 80 bar

      Run =
        Struct.new(:start_s, :end_s, :from_bar, :to_bar) do
          # How long it lasts, in s.
          def seconds
            end_s - start_s
          end
        end

      # capture: Capture; channel: of bar, the first where none is named.
      def initialize(capture, channel: nil, catalogue: Knowledge.catalogue)
        @capture = capture
        @channel = capture.channel(channel, unit: "bar")
        @limits = catalogue.signal
        @findings = []
        @time = capture.time_s
        @bars = Smoothing.mean(@channel.values, Smoothing.width(SMOOTH_S, capture.duration_s, capture.samples))
        @noise = Smoothing.noise(@bars)
        segment
        judge
      end

      # The fields of docs/formats/captures.md.
      def to_h
        {
          signal: "pump_pressure",
          channel: @channel.name,
          samples: @capture.samples,
          duration_s: @capture.duration_s.round(3),
          cut_in_bar: median(@runs.reject { |run| at_start?(run) }.map(&:from_bar)),
          cut_out_bar: median(complete.map(&:to_bar)),
          run_s: median(whole(@runs).map(&:seconds)),
          rest_s: median(whole(@rests).map(&:seconds)),
          leak_bar_s: leak&.round(4),
          precharge_bar: precharge&.round(1),
          runs: @runs.size,
          duty: duty_cycle&.round(3),
          verdict: findings.empty? ? "clean" : "faulty",
          findings: findings
        }
      end

      # The Waveform that a page draws.
      def trace
        Waveform.of(@capture, first: @channel)
      end

      private

      def median(values)
        Quantity::Statistics.median(values)&.round(3)
      end

      # Rising and falling stretches, by turning points.
      def segment
        @runs, @rests =
          settled(turns)
            .each_cons(2)
            .map { |a, b| Run.new(@time[a], @time[b], @bars[a], @bars[b]) }
            .partition { |piece| rising?(piece) }
        mark("pump_runs", @runs.map(&:start_s))
        mark("pump_rests", @rests.map(&:start_s))
      end

      # Where pressure stays near a turn, noise says which sample is the highest or lowest. A run ends at the first that
      # comes near its highest, and begins at the last that is near its lowest.
      def settled(points)
        near = [NEAR_BAR, NEAR_SIGMAS * @noise].max
        points
          .each_with_index
          .map do |point, k|
            before = k.zero? ? point : points[k - 1]
            after = points[k + 1] || point
            if @bars[point] > @bars[before]
              (before..point).find { |i| @bars[i] >= @bars[point] - near }
            elsif @bars[after] > @bars[point]
              (point..after).to_a.reverse.find { |i| @bars[i] <= @bars[point] + near }
            else
              point
            end
          end
          .each_cons(2)
          .reduce([points.first]) { |kept, (_, index)| kept << [index, kept.last].max }
      end

      def rising?(piece)
        piece.to_bar > piece.from_bar && piece.seconds.positive? &&
          (piece.to_bar - piece.from_bar) / piece.seconds > RISES_BAR_S
      end

      # Indices, the ends among them.
      def turns
        enough = [TURN_BAR, TURN_SIGMAS * @noise].max
        low = high = 0
        points = []
        up = nil
        @bars.each_index do |i|
          high = i if @bars[i] > @bars[high]
          low = i if @bars[i] < @bars[low]
          if up != false && @bars[high] - @bars[i] > enough
            points << high
            up = false
            low = i
          elsif up != true && @bars[i] - @bars[low] > enough
            points << low
            up = true
            high = i
          end
        end
        points << (up ? high : low)
        ([0] + points + [@bars.size - 1]).uniq.sort
      end

      def at_start?(piece)
        piece.start_s <= @time.first
      end

      def at_end?(piece)
        piece.end_s >= @time.last - 1e-9
      end

      # Those that were seen from their beginning to their end; all, where there are none.
      def whole(pieces)
        seen = pieces.reject { |piece| at_start?(piece) || at_end?(piece) }
        seen.empty? ? pieces : seen
      end

      # Runs that were seen to their end.
      def complete
        @runs.reject { |run| at_end?(run) }
      end

      # Bar a second while the pump rests and nobody brakes: the median over the longer rests.
      def leak
        return @leak if defined?(@leak)

        falls = @rests.select { |rest| rest.seconds > LEAK_OVER_S }.flat_map { |rest| falls_within(rest) }
        short =
          @rests
            .select { |rest| rest.seconds.positive? && rest.from_bar >= rest.to_bar }
            .map { |rest| (rest.from_bar - rest.to_bar) / rest.seconds }
        rate = Quantity::Statistics.median(falls.empty? ? short : falls)
        @leak = rate && [rate, 0.0].max
      end

      # Bar a second over each LEAK_OVER_S of a rest.
      def falls_within(rest)
        first = @time.bsearch_index { |time| time >= rest.start_s }
        last = (@time.bsearch_index { |time| time > rest.end_s } || @time.size) - 1
        step = [Smoothing.width(LEAK_OVER_S, rest.seconds, last - first + 1), 1].max
        (first..(last - step))
          .step([step / 4, 1].max)
          .map { |i| (@bars[i] - @bars[i + step]) / (@time[i + step] - @time[i]) }
      end

      def duty_cycle
        run = @runs.sum(&:seconds)
        all = run + @rests.sum(&:seconds)
        all.positive? ? run / all : nil
      end

      def starts_empty?
        @bars.first < EMPTY_SHARE * @bars.max
      end

      # From the first filling, where it was seen.
      def precharge
        return @precharge if defined?(@precharge)

        first = complete.find { |run| run.to_bar > FULL_SHARE * @bars.max }
        @precharge = starts_empty? && first ? filled(first) : nil
      end

      def filled(first)
        rows = @time.each_index.select { |i| @time[i] <= first.end_s }
        AccumulatorFill.new(rows.map { |i| @time[i] }, rows.map { |i| @bars[i] }, noise: @noise).precharge_bar
      end

      def judge
        return does_not_build if @bars.max < limit("least_build_bar") || endless?

        if precharge && precharge < LOST_PRECHARGE_BAR
          add(
            "lost_precharge",
            0.85,
            "Pressure climbs from #{precharge.round} bar on without a cushion: the gas is gone.",
            precharge_bar: precharge.round(1)
          )
        end
        cycling if @runs.size >= 2 && @rests.any?
        if findings.none? && leak && leak > limit("leak_bar_s") && @rests.any? { |rest| rest.seconds >= LEAK_REST_S }
          leaks
        end
      end

      def endless?
        @runs.any? { |run| run.seconds > limit("pump_endless_s") } && complete.empty?
      end

      def does_not_build
        add(
          "does_not_build",
          0.92,
          "Pressure stays at #{@bars.max.round} bar at the most: pump, suction or an open way back.",
          most_bar: @bars.max.round(1)
        )
      end

      def cycling
        run = Quantity::Statistics.median(whole(@runs).map(&:seconds))
        between = @rests.select { |rest| rest.start_s > @runs.first.start_s && rest.end_s < @runs.last.end_s }
        rest = Quantity::Statistics.median(between.map(&:seconds))
        return if rest.nil?

        PumpCycle
          .new(run_s: run, rest_s: rest)
          .findings
          .each { |row| findings << (row[:kind] == "leaks_down" ? { **row, leak_bar_s: leak&.round(3) } : row) }
      end

      def leaks
        add(
          "leaks_down",
          0.85,
          "Pressure falls #{leak.round(1)} bar a second with the pedal left alone: a leak, inside or out.",
          leak_bar_s: leak.round(3)
        )
      end
    end
  end
end
