# frozen_string_literal: true

module Gadwall
  module Signals
    # What a log of live data tells: wheels against each other, brake switch against pressure, values at rest, and steering
    # angle, yaw rate, lateral acceleration and wheel speeds against one another.
    class LiveData
      include Findings

      WHEELS = %w[wheel_front_left wheel_front_right wheel_rear_left wheel_rear_right].freeze
      SHORT_S = 2.0       # common practice: a drop-out is shorter; what stays away longer reads nothing at all, or is another tyre
      LEAST_SHARE = 0.8   # of the time in motion at zero: a dead wheel
      STRAIGHT_DEG_S = 2.0
      BEND_DEG_S = 6.0

      attr_reader :log

      # log: LiveLog.
      def initialize(log, catalogue: Knowledge.catalogue)
        @log = log
        @limits = catalogue.signal
        @units = catalogue.live_parameters
        @findings = []
        wheels if wheel_ids.size >= 3
        switch if log.has?("brake_switch", "pressure")
        rest
        bends
        voltage if log.has?("system_voltage")
      end

      def to_h
        { signal: "live_data", samples: log.time_s.size, duration_s: (log.time_s.last - log.time_s.first).round(3), mapping: log.matches, parameters: log.values.to_h { |id, values| [id, summary(id, values)] },
          verdict: findings.empty? ? "clean" : "faulty", findings: findings }
      end

      private

      def summary(id, values)
        { unit: @units.dig(id, "unit"), least: values.min.round(4), most: values.max.round(4), mean: (values.sum / values.size).round(4) }
      end

      def wheel_ids
        WHEELS.select { |id| log.has?(id) }
      end

      def name(id)
        id.delete_prefix("wheel_").tr("_", " ")
      end

      # Median of the other wheels, row by row.
      def others(id)
        rest = wheel_ids - [id]
        (@others ||= {})[id] ||= log.time_s.each_index.map { |i| RingMap.median(rest.map { |other| log.values[other][i] }) }
      end

      def wheels
        wheel_ids.each do |id|
          moving = log.time_s.each_index.select { |i| others(id)[i] > limit("moving_km_h") }
          next if moving.size < 4

          zero = moving.select { |i| log.values[id][i] < 0.5 }
          if zero.size > LEAST_SHARE * moving.size
            add("wheel_reads_zero", 0.95, "The #{name(id)} wheel reads nothing while the others turn: sensor, lead, ring missing.", wheel: name(id))
          else
            dropouts(id, moving)
            ratio(id, moving)
          end
        end
      end

      def dropouts(id, moving)
        low = moving.select { |i| others(id)[i] > limit("moving_km_h") * 1.6 && log.values[id][i] < limit("dropout_below") * others(id)[i] }
        bursts = low.slice_when { |a, b| b > a + 1 }.select { |burst| length(burst) <= SHORT_S || burst.all? { |i| log.values[id][i] < 0.5 } }
        return if bursts.empty?

        add("wheel_drops_out", [0.7 + (0.1 * bursts.size), 0.97].min, "The #{name(id)} wheel drops out #{bursts.size == 1 ? 'once' : "#{bursts.size} times"}.", wheel: name(id), count: bursts.size, lost_s: bursts.sum { |burst| length(burst) }.round(2), at: bursts.map { |burst| moment(burst) })
      end

      def length(burst)
        log.time_s[burst.last] - log.time_s[burst.first]
      end

      # When, and what else happened then.
      def moment(burst)
        i = burst.first
        with = []
        with << "turning" if log.has?("yaw_rate") && log.values["yaw_rate"][i].abs > BEND_DEG_S
        with << "steering" if log.has?("steering_angle") && log.values["steering_angle"][i].abs > 30
        with << "low voltage" if log.has?("system_voltage") && log.values["system_voltage"][i] < limit("low_volt")
        with << "braking" if log.has?("brake_switch") && log.values["brake_switch"][i] > 0.5
        { time_s: log.time_s[i].round(2), with: with }
      end

      def straight?(i)
        return log.values["yaw_rate"][i].abs < STRAIGHT_DEG_S if log.has?("yaw_rate")
        return log.values["steering_angle"][i].abs < 12 if log.has?("steering_angle")

        true
      end

      def ratio(id, moving)
        steady = moving.select { |i| others(id)[i] > 15 && straight?(i) && log.values[id][i] > 0.6 * others(id)[i] }
        return if steady.size < 5

        off = RingMap.median(steady.map { |i| log.values[id][i] / others(id)[i] })
        return if (off - 1).abs < limit("wheel_off_from")

        add("wheel_reads_off", 0.9, "The #{name(id)} wheel reads #{((off - 1) * 100).round(1)} percent off the others, steadily: another tyre or another ring.", wheel: name(id), ratio: off.round(4))
      end

      # Lets go while the foot is down.
      def switch
        pressed = log.time_s.each_index.select { |i| log.values["pressure"][i] > limit("pedal_held_bar") + rest_pressure }
        return if pressed.size < 3

        holds = pressed.slice_when { |a, b| b > a + 1 }.select { |hold| hold.size >= 3 }
        drops = holds.sum { |hold| hold[1..-2].slice_when { |a, b| (log.values["brake_switch"][a] > 0.5) != (log.values["brake_switch"][b] > 0.5) }.count { |run| log.values["brake_switch"][run.first] <= 0.5 } }
        return if drops.zero?

        add("switch_drops_out", [0.75 + (0.08 * drops), 0.97].min, "The brake switch lets go #{drops == 1 ? 'once' : "#{drops} times"} while the pedal is held.", count: drops)
      end

      def rest_pressure
        still = standing
        still.size < 3 ? 0.0 : RingMap.median(still.map { |i| log.values["pressure"][i] }).clamp(0.0, 10.0)
      end

      # Rows in which every wheel stands and nobody brakes.
      def standing
        @standing ||= log.time_s.each_index.select { |i| wheel_ids.any? && wheel_ids.all? { |id| log.values[id][i] < 0.5 } && !(log.has?("brake_switch") && log.values["brake_switch"][i] > 0.5) }
      end

      RESTS = { "pressure" => "rest_pressure_bar", "yaw_rate" => "rest_yaw_deg_s", "lateral_acceleration" => "rest_lateral_m_s2" }.freeze

      def rest
        return if standing.size < 3

        RESTS.each do |id, name|
          next unless log.has?(id)

          offset = RingMap.median(standing.map { |i| log.values[id][i] })
          add("offset_at_rest", 0.9, "#{id.tr('_', ' ').capitalize} reads #{offset.round(2)} #{@units.dig(id, 'unit')} at rest: zero it on level ground, then look at the sensor.", parameter: id, offset: offset.round(3)) if offset.abs > limit(name)
        end
      end

      # Yaw by each that can tell, in bends; who differs from two that agree is the suspect.
      def bends
        rates = estimates
        return if rates.size < 3

        rows = log.time_s.each_index.select { |i| rates.values.count { |values| values[i].abs > BEND_DEG_S } >= 2 }
        return if rows.size < 5

        apart = rates.keys.combination(2).to_h { |a, b| [[a, b], RingMap.median(rows.map { |i| (rates[a][i] - rates[b][i]).abs })] }
        agree = apart.min_by(&:last).first
        return if apart[agree] > limit("disagrees_deg_s")

        (rates.keys - agree).each do |id|
          by = RingMap.median(rows.map { |i| rates[id][i] - ((rates[agree[0]][i] + rates[agree[1]][i]) / 2) })
          far = agree.map { |other| apart.fetch([id, other]) { apart[[other, id]] } }.min
          add("disagrees", 0.9, "#{id.tr('_', ' ').capitalize} does not fit #{agree.map { |other| other.tr('_', ' ') }.join(' and ')} in bends, by #{by.round(1)} degrees a second.", parameter: id, by_deg_s: by.round(2), others: agree) if far > limit("disagrees_deg_s")
        end
      end

      # {parameter => yaw rate by row}; logs that count right turns positive are turned round.
      def estimates
        rates = {}
        if log.has?("wheel_rear_left", "wheel_rear_right")
          rates["wheel_speeds"] = log.time_s.each_index.map { |i| Kinematics.yaw_of_wheels(log.values["wheel_rear_left"][i] / 3.6, log.values["wheel_rear_right"][i] / 3.6, track_m: limit("track_m")) }
        end
        rates["yaw_rate"] = log.values["yaw_rate"].dup if log.has?("yaw_rate")
        rates["steering_angle"] = log.time_s.each_index.map { |i| steering_yaw(i) } if log.has?("steering_angle") && wheel_ids.any?
        rates["lateral_acceleration"] = log.time_s.each_index.map { |i| Kinematics.yaw_of_lateral(speed(i), log.values["lateral_acceleration"][i]) || 0.0 } if log.has?("lateral_acceleration") && wheel_ids.any?
        first = rates.values.first
        rates.transform_values { |values| first.zip(values).sum { |a, b| a * b }.negative? ? values.map(&:-@) : values }
      end

      def speed(i)
        RingMap.median(wheel_ids.map { |id| log.values[id][i] }) / 3.6
      end

      def steering_yaw(i)
        Kinematics.yaw_of_steering(speed(i), log.values["steering_angle"][i], wheelbase_m: limit("wheelbase_m"), ratio: limit("steering_ratio"), characteristic_m_s: limit("characteristic_m_s"))
      end

      def voltage
        low = log.time_s.each_index.select { |i| log.values["system_voltage"][i] < limit("low_volt") }
        return if low.empty?

        dips = low.slice_when { |a, b| b > a + 1 }.to_a
        least = low.map { |i| log.values["system_voltage"][i] }.min
        add("voltage_dip", 0.9, "The system voltage falls to #{least.round(1)} V, #{dips.size == 1 ? 'once' : "#{dips.size} times"}: under-voltage writes codes of its own.", count: dips.size, least_v: least.round(2))
      end
    end
  end
end
