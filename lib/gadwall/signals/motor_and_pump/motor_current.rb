# frozen_string_literal: true

module Gadwall
  module Signals
    # The current of a park-brake motor over one stroke: inrush, free run, clamp, cut-off, and what is wrong with them.
    class MotorCurrent
      include Findings

      SMOOTH_S = 0.03
      INRUSH_S = 0.25 # common practice: the rush of a small motor is over in a quarter of a second
      RUNNING_A = 0.8 # less is a motor that stands or is not driven; from memory
      CLAMP_OVER = 1.25 # times the free run, and CLAMP_OVER_A more, from which it is clamping
      CLAMP_OVER_A = 1.2
      QUIET_S = 0.05 # at the beginning, that tells what the clamp meter shows of nothing
      OFFSET_A = 1.5 # more is no offset
      APART_S = 0.3 # of no current: another stroke
      BREAK_S = 0.02 # of no current within a stroke: it broke off
      SUPPLY_V = 10.0 # a supply that falls below this while the motor pulls is weak

      Phase = Struct.new(:name, :start_s, :end_s, :level_a, keyword_init: true)

      attr_reader :phases

      # capture: Capture with a channel of amperes (the first, or the one named), and one of volts where the supply was
      # logged.
      def initialize(capture, channel: nil, catalogue: Knowledge.catalogue)
        @capture = capture
        @channel = capture.channel(channel, unit: "A")
        @limits = catalogue.signal
        @time = capture.time_s
        @amperes = smoothed(without_offset(@channel.values))
        @phases = []
        @findings = []
        analyse
      end

      # The fields of docs/formats/captures.md.
      def to_h
        {
          signal: "motor_current",
          channel: @channel.name,
          samples: @capture.samples,
          duration_s: @capture.duration_s.round(6),
          phases:
            phases.map { |phase| phase.to_h.transform_values { |value| value.is_a?(Float) ? value.round(3) : value } },
          verdict: findings.empty? ? "clean" : "faulty",
          findings: findings
        }
      end

      # The Waveform that a page draws.
      def trace
        Waveform.of(@capture, first: @channel)
      end

      private

      def without_offset(values)
        quiet = values.first(Smoothing.width(QUIET_S, @capture.duration_s, @capture.samples))
        offset = Quantity::Statistics.median(quiet)
        offset.abs < OFFSET_A ? values.map { |value| value - offset } : values
      end

      # In the direction of the stroke.
      def smoothed(values)
        mean = Smoothing.mean(values, Smoothing.width(SMOOTH_S, @capture.duration_s, @capture.samples))
        mean.map(&:abs)
      end

      def analyse
        on = @amperes.each_index.select { |i| @amperes[i] > RUNNING_A }
        return open_circuit if on.size < 3

        first, last = applied(on)
        after = index_at(@time[first] + INRUSH_S, first, last)
        free = Quantity::Statistics.median(@amperes[after..[after + ((last - after) / 2), after].max])
        rise = clamp_from(after, last, free)
        name_phases(first, after, rise, last, free)
        judge(first, rise, last, free)
      end

      # First and last index of the stroke that is judged: of several, the one that ends highest, as applying does.
      def applied(on)
        strokes = on.slice_when { |a, b| @time[b] - @time[a] > APART_S }.select { |stroke| stroke.size >= 3 }
        strokes = [on] if strokes.empty?
        best = strokes.max_by { |stroke| @amperes.values_at(*stroke.last([stroke.size / 5, 1].max)).max }
        [best.first, best.last]
      end

      def index_at(time, from, upto)
        (from..upto).find { |i| @time[i] >= time } || upto
      end

      # Where the current leaves the free run for good.
      def clamp_from(after, last, free)
        limit = [free * CLAMP_OVER, free + CLAMP_OVER_A].max
        index = last
        index -= 1 while index > after && @amperes[index] < limit # the cut-off itself
        return nil if index <= after

        index -= 1 while index > after && @amperes[index] > free * 1.15
        falls_from?(index, last) ? nil : index
      end

      # Highest at once and falling from there: the end of the rush, or of releasing, not a clamp.
      def falls_from?(index, last)
        top = (index..last).max_by { |i| @amperes[i] }
        top - index < (last - index) / 4
      end

      def name_phases(first, after, rise, last, free)
        phase("inrush", first, after, @amperes[first..after].max)
        phase("free_run", after, rise || last, free)
        return unless rise

        top = (rise..last).max_by { |i| @amperes[i] }
        phase("clamp", rise, top, @amperes[top])
        phase("cut_off", top, last, @amperes[last])
      end

      def phase(name, from, upto, level)
        mark(name, [@time[from]])
        phases << Phase.new(name: name, start_s: @time[from], end_s: @time[upto], level_a: level).freeze
      end

      def open_circuit
        add(
          "open_circuit",
          0.95,
          "No current: motor, wiring or motor driver open circuit.",
          most_a: @amperes.max.round(3)
        )
      end

      def judge(first, rise, last, free)
        supply
        breaks_off(first, last)
        return stall(first, last, free) if free > limit("motor_stall_a") || short_and_high?(first, last)
        return if rise.nil? && released?(first, last)
        if rise.nil?
          return(
            add(
              "no_clamp",
              0.9,
              "Runs free at #{free.round(1)} A and never clamps: gear, spindle or pads missing.",
              at_s: [@time[last]],
              level_a: free.round(2)
            )
          )
        end

        slow(@time[last] - @time[first], @time[last] - @time[rise], @amperes[rise..last].max)
      end

      def slow(stroke, clamping, top)
        unless stroke > limit("motor_slow_s") || clamping > limit("motor_slow_s") / 2 || top < limit("motor_clamp_a")
          return
        end

        add(
          "slow_clamp",
          0.85,
          "#{stroke.round(1)} s for the stroke, #{top.round(1)} A at the end: stiff, or too much resistance in its " \
            "path.",
          stroke_s: stroke.round(2),
          clamp_a: top.round(2)
        )
      end

      def stall(first, last, free)
        level = free > limit("motor_stall_a") ? free : Quantity::Statistics.median(@amperes[first..last])
        add(
          "stall",
          0.93,
          "#{level.round(1)} A from the start and no free run: motor or spindle stands.",
          at_s: [@time[first]],
          level_a: level.round(2)
        )
      end

      # Switched off before the rush was over, and high all along.
      def short_and_high?(first, last)
        @time[last] - @time[first] < INRUSH_S * 2 &&
          Quantity::Statistics.median(@amperes[first..last]) > limit("motor_stall_a")
      end

      # A stroke the other way ends free, soon: nothing is wrong with it. (A clamp meter the wrong way round shows a
      # stroke that never clamps until the module gives up.)
      def released?(first, last)
        @time[last] - @time[first] < RELEASED_WITHIN_S &&
          Quantity::Statistics.median(@channel.values[first..last]).negative?
      end

      RELEASED_WITHIN_S = 2.0 # common practice: 1 to 3 s a stroke, releasing quicker than applying; from memory

      # No current for a moment, and then again, within the stroke.
      def breaks_off(first, last)
        gaps =
          (first..last)
            .select { |i| @amperes[i] < RUNNING_A }
            .slice_when { |a, b| b > a + 1 }
            .select { |gap| @time[gap.last] - @time[gap.first] >= BREAK_S }
        return if gaps.empty?

        add(
          "dropouts",
          [0.7 + (0.1 * gaps.size), 0.95].min,
          "The current drops out #{gaps.size == 1 ? "once" : "#{gaps.size} times"} within the stroke: connector, " \
            "wiring or brush.",
          at_s: gaps.map { |gap| @time[gap.first] },
          count: gaps.size
        )
      end

      def supply
        volts = @capture.channels.find { |each| each.unit == "V" } or return
        low = @amperes.each_index.select { |i| @amperes[i] > RUNNING_A }.map { |i| volts.values[i] }
        least = smoothed(low).min
        return if least.nil? || least >= SUPPLY_V

        add(
          "weak_supply",
          0.9,
          "The supply falls to #{least.round(1)} V while the motor pulls: feed, ground or battery.",
          least_v: least.round(2)
        )
      end
    end
  end
end
