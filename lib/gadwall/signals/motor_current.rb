# frozen_string_literal: true

module Gadwall
  module Signals
    # The current of a park-brake motor over one stroke: inrush, free run, clamp, cut-off, and what is wrong with them.
    class MotorCurrent
      include Findings

      SMOOTH_S = 0.03
      INRUSH_S = 0.25      # common practice: the rush of a small motor is over in a quarter of a second
      RUNNING_A = 0.8      # less is a motor that stands or is not driven; from memory
      CLAMP_OVER = 1.6     # times the free run, from which it is clamping
      SUPPLY_V = 10.0      # a supply that falls below this while the motor pulls is weak

      Phase = Struct.new(:name, :start_s, :end_s, :level_a, keyword_init: true)

      attr_reader :phases

      # capture: Capture with a channel of amperes (the first, or the one named), and one of volts where the supply was logged.
      def initialize(capture, channel: nil, catalogue: Knowledge.catalogue)
        @capture = capture
        @channel = capture.channel(channel, unit: "A")
        @limits = catalogue.signal
        @time = capture.time_s
        @amperes = smoothed(@channel.values.map(&:abs))
        @phases = []
        @findings = []
        analyse
      end

      def to_h
        { signal: "motor_current", channel: @channel.name, samples: @capture.samples, duration_s: @capture.duration_s.round(6), phases: phases.map { |phase| phase.to_h.transform_values { |value| value.is_a?(Float) ? value.round(3) : value } },
          verdict: findings.empty? ? "clean" : "faulty", findings: findings }
      end

      def trace
        Trace.of(@capture, first: @channel)
      end

      private

      # Running mean over some thirtieths of a second.
      def smoothed(values)
        step = @capture.duration_s / [values.size - 1, 1].max
        width = step.positive? ? (SMOOTH_S / step).round.clamp(1, values.size) : 1
        return values if width < 2

        sums = [0.0]
        values.each { |value| sums << (sums.last + value) }
        values.each_index.map do |i|
          from = [i - (width / 2), 0].max
          upto = [from + width, values.size].min
          (sums[upto] - sums[from]) / (upto - from)
        end
      end

      def analyse
        on = @amperes.each_index.select { |i| @amperes[i] > RUNNING_A }
        return open_circuit if on.size < 3

        first = on.first
        last = on.last
        after = index_at(@time[first] + INRUSH_S, first, last)
        free = RingMap.median(@amperes[after..[after + ((last - after) / 2), after].max])
        rise = clamp_from(after, last, free)
        name_phases(first, after, rise, last, free)
        judge(first, rise, last, free)
      end

      def index_at(time, from, upto)
        (from..upto).find { |i| @time[i] >= time } || upto
      end

      # Where the current leaves the free run for good.
      def clamp_from(after, last, free)
        limit = [free * CLAMP_OVER, free + 1.5].max
        index = last
        index -= 1 while index > after && @amperes[index] < limit # the cut-off itself
        return nil if index <= after

        index -= 1 while index > after && @amperes[index] > free * 1.15
        index
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
        add("open_circuit", 0.95, "No current to speak of: motor, lead or bridge open.", most_a: @amperes.max.round(3))
      end

      def judge(first, rise, last, free)
        stroke = @time[last] - @time[first]
        supply
        return add("stall", 0.93, "#{free.round(1)} A from the start and no free run: motor or spindle stands.", level_a: free.round(2)) if free > limit("motor_stall_a")
        return add("no_clamp", 0.9, "Runs free at #{free.round(1)} A and never clamps: gear, spindle or pads missing.", level_a: free.round(2)) if rise.nil?

        top = @amperes[rise..last].max
        return unless stroke > limit("motor_slow_s") || @time[last] - @time[rise] > limit("motor_slow_s") / 2

        add("slow_clamp", 0.85, "#{stroke.round(1)} s for the stroke, #{top.round(1)} A at the end: stiff, or too much resistance in its path.", stroke_s: stroke.round(2), clamp_a: top.round(2))
      end

      def supply
        volts = @capture.channels.find { |each| each.unit == "V" } or return
        low = @amperes.each_index.select { |i| @amperes[i] > RUNNING_A }.map { |i| volts.values[i] }
        least = smoothed(low).min
        return if least.nil? || least >= SUPPLY_V

        add("weak_supply", 0.9, "The supply falls to #{least.round(1)} V while the motor pulls: feed, ground or battery.", least_v: least.round(2))
      end
    end
  end
end
