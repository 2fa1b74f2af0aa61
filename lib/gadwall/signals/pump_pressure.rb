# frozen_string_literal: true

module Gadwall
  module Signals
    # The pressure of an accumulator over time: when its pump cuts in and out, how long it runs and rests, how fast pressure
    # leaks down, what gas there is (the knee of the curve while an empty accumulator fills).
    class PumpPressure
      include Findings

      TURN_BAR = 4.0        # a turn of the curve counts from here
      RISES_BAR_S = 0.3     # bar a second, from which the pump runs
      KNEE = 2.5            # times steeper below the gas pressure than above
      LOST_PRECHARGE_BAR = 40.0 # from memory: accumulators are charged to some 80 bar

      Run = Struct.new(:start_s, :end_s, :from_bar, :to_bar) do
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
        segment
        judge
      end

      def to_h
        { signal: "pump_pressure", channel: @channel.name, samples: @capture.samples, duration_s: @capture.duration_s.round(3), cut_in_bar: median(@runs.drop(@starts_low ? 1 : 0).map(&:from_bar)), cut_out_bar: median(complete.map(&:to_bar)),
          run_s: median(@runs.map(&:seconds)), rest_s: median(@rests.map(&:seconds)), leak_bar_s: leak&.round(4), precharge_bar: precharge&.round(1), runs: @runs.size, duty: duty&.round(3),
          verdict: findings.empty? ? "clean" : "faulty", findings: findings }
      end

      def trace
        Trace.of(@capture, first: @channel)
      end

      private

      def median(values)
        RingMap.median(values)&.round(3)
      end

      # Rising and falling stretches, by turning points that exceed TURN_BAR.
      def segment
        points = turns
        @runs = []
        @rests = []
        points.each_cons(2) do |a, b|
          piece = Run.new(@capture.time_s[a], @capture.time_s[b], value(a), value(b))
          rising = piece.to_bar > piece.from_bar && piece.seconds.positive? && (piece.to_bar - piece.from_bar) / piece.seconds > RISES_BAR_S
          (rising ? @runs : @rests) << piece
        end
        mark("pump_runs", @runs.map(&:start_s))
        mark("pump_rests", @rests.map(&:start_s))
        @starts_low = @runs.any? && @runs.first.from_bar < 0.5 * @runs.map(&:to_bar).max
      end

      def value(index)
        @channel.values[index]
      end

      def turns
        low = high = 0
        points = []
        up = nil
        @channel.values.each_index do |i|
          high = i if value(i) > value(high)
          low = i if value(i) < value(low)
          if up != false && value(high) - value(i) > TURN_BAR
            points << high
            up = false
            low = i
          elsif up != true && value(i) - value(low) > TURN_BAR
            points << low
            up = true
            high = i
          end
        end
        points << (up ? high : low)
        ends(points.uniq)
      end

      # The stretches before the first and after the last turn belong to it too.
      def ends(points)
        ([0] + points + [@channel.values.size - 1]).uniq.sort
      end

      # Runs that were seen to their end.
      def complete
        @runs.select { |run| run.end_s < @capture.time_s.last - 1e-9 }
      end

      # Bar a second while the pump rests and nobody brakes: the median of the rests.
      def leak
        rates = @rests.select { |rest| rest.seconds > 0.5 && rest.from_bar >= rest.to_bar }.map { |rest| (rest.from_bar - rest.to_bar) / rest.seconds }
        RingMap.median(rates)
      end

      def duty
        run = @runs.sum(&:seconds)
        whole = run + @rests.sum(&:seconds)
        whole.positive? ? run / whole : nil
      end

      # Filling from empty: pressure jumps to that of the gas, then climbs slowly. The knee between, or nil.
      def precharge
        return @precharge if defined?(@precharge)

        @precharge = @starts_low ? knee(@runs.first) : nil
      end

      def knee(run)
        inside = @capture.time_s.each_index.select { |i| @capture.time_s[i].between?(run.start_s, run.end_s) }
        return if inside.size < 8

        best = inside[2..-3].max_by { |k| slope(inside.first, k) - slope(k, inside.last) }
        value(best) if slope(inside.first, best) > KNEE * slope(best, inside.last)
      end

      def slope(a, b)
        span = @capture.time_s[b] - @capture.time_s[a]
        span.positive? ? (value(b) - value(a)) / span : 0.0
      end

      def judge
        return does_not_build if @channel.values.max < limit("least_build_bar") || endless?

        add("lost_precharge", 0.85, "Pressure climbs from #{precharge.round} bar on without a cushion: the gas is gone.", precharge_bar: precharge.round(1)) if precharge && precharge < LOST_PRECHARGE_BAR
        return if @rests.empty? || @runs.size < 2

        cycling
      end

      def endless?
        @runs.any? { |run| run.seconds > limit("pump_endless_s") } && complete.empty?
      end

      def does_not_build
        add("does_not_build", 0.92, "Pressure stays at #{@channel.values.max.round} bar at the most: pump, suction or an open way back.", most_bar: @channel.values.max.round(1))
      end

      def cycling
        run = RingMap.median(@runs.map(&:seconds))
        between = @rests.select { |rest| rest.start_s > @runs.first.start_s && rest.end_s < @runs.last.end_s }
        rest = RingMap.median(between.map(&:seconds))
        return if rest.nil?

        PumpCycle.new(run_s: run, rest_s: rest).findings.each do |row|
          findings << (row[:kind] == "leaks_down" ? { **row, leak_bar_s: leak&.round(3) } : row)
        end
      end
    end
  end
end
