# frozen_string_literal: true

module Gadwall
  module Signals
    # What a log of live data tells: wheels against each other, park brake and pump, brake switch against pressure,
    # values at rest, system voltage, and steering angle, yaw rate, lateral acceleration and wheel speeds against one
    # another.
    class LiveData
      include Findings

      attr_reader :log

      # log: LiveLog; circumference_m: of the wheels, or nil.
      def initialize(log, circumference_m: nil, catalogue: Knowledge.catalogue)
        @log = log
        @limits = catalogue.signal
        @units = catalogue.live_parameters
        @wheels = LiveWheels.new(log, @limits, circumference_m: circumference_m)
        @actuators = LiveActuators.new(log, @limits)
        @bends = LiveBends.new(log, @limits, @wheels)
        @switch = LiveSwitch.new(log, @limits, rest_bar: rest_pressure) if log.has?("brake_switch", "pressure")
        parts = [@wheels, @bends, @actuators, @switch].compact
        @findings = parts.flat_map(&:findings)
        @marks = parts.flat_map(&:marks)
        rest
        voltage if log.has?("system_voltage")
      end

      # The fields of docs/formats/captures.md.
      def to_h
        {
          signal: "live_data",
          samples: log.time_s.size,
          duration_s: (log.time_s.last - log.time_s.first).round(3),
          mapping: log.matches,
          parameters: log.values.to_h { |id, values| [id, summary(id, values)] },
          **@actuators.to_h,
          judged: {
            rest: judged_at_rest,
            bends: @bends.judged,
            switch: @switch&.judged || []
          },
          verdict: verdict,
          findings: findings,
          note: (NOTHING_KNOWN if log.values.empty?)
        }.compact
      end

      NOTHING_KNOWN = "None of its columns was understood: say what each one is."

      # "clean", "faulty" or "unreadable".
      def verdict
        return "unreadable" if log.values.empty?

        findings.empty? ? "clean" : "faulty"
      end

      # The wheels in one panel, everything else by unit.
      def trace
        wheels, rest = log.values.keys.partition { |id| LiveWheels::IDS.include?(id) }
        Waveform.new(
          (
            [["Wheel speeds", wheels]] +
              rest
                .group_by { |id| @units.dig(id, "unit") }
                .values
                .map { |ids| [ids.map { |id| id.tr("_", " ") }.join(", ").capitalize, ids] }
          ).reject { |_, ids| ids.empty? }.map { |title, ids| panel(title, ids) }
        )
      end

      private

      def panel(title, ids)
        unit = @units.dig(ids.first, "unit")
        Waveform::Panel.new(
          title: title,
          unit: unit,
          time_s: log.time_s,
          series: ids.to_h { |id| [id.delete_prefix("wheel_").tr("_", " "), log.values[id]] },
          steps: unit == ""
        )
      end

      def summary(id, values)
        {
          unit: @units.dig(id, "unit"),
          least: values.min.round(4),
          most: values.max.round(4),
          mean: (values.sum / values.size).round(4)
        }
      end

      def switched?(i)
        log.values["brake_switch"][i] > 0.5
      end

      def rest_pressure
        still = stationary_rows
        still.size < 3 ? 0.0 : Quantity::Statistics.median(still.map { |i| log.values["pressure"][i] }).clamp(0.0, 10.0)
      end

      # Rows in which every wheel stands and nobody brakes.
      def stationary_rows
        @stationary_rows ||= @wheels.stationary_rows.reject { |i| log.has?("brake_switch") && switched?(i) }
      end

      RESTS = {
        "pressure" => "rest_pressure_bar",
        "yaw_rate" => "rest_yaw_deg_s",
        "lateral_acceleration" => "rest_lateral_m_s2"
      }.freeze

      def judged_at_rest
        stationary_rows.size < 3 ? [] : RESTS.keys.select { |id| log.has?(id) }
      end

      def rest
        judged_at_rest.each do |id|
          name = RESTS.fetch(id)
          offset = Quantity::Statistics.median(stationary_rows.map { |i| log.values[id][i] })
          next unless offset.abs > limit(name)
          add(
            "offset_at_rest",
            0.9,
            "#{id.tr("_", " ").capitalize} reads #{offset.round(2)} #{@units.dig(id, "unit")} at rest: zero it on " \
              "level ground, then look at the sensor.",
            parameter: id,
            offset: offset.round(3)
          )
        end
      end

      def voltage
        low = log.time_s.each_index.select { |i| log.values["system_voltage"][i] < limit("low_volt") }
        return if low.empty?

        dips = low.slice_when { |a, b| b > a + 1 }.to_a
        least = low.map { |i| log.values["system_voltage"][i] }.min
        add(
          "voltage_dip",
          0.9,
          "The system voltage falls to #{least.round(1)} V, #{dips.size == 1 ? "once" : "#{dips.size} times"}: " \
            "under-voltage sets DTCs of its own.",
          at_s: dips.map { |dip| log.time_s[dip.first] },
          count: dips.size,
          least_v: least.round(2)
        )
      end
    end
  end
end
