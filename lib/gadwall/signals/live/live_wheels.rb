# frozen_string_literal: true

module Gadwall
  module Signals
    # The wheels of a log of live data, each against the median of the others: nothing at all, late to start, drop-outs
    # with what else happened then, and a steady ratio.
    class LiveWheels
      include Findings

      IDS = %w[wheel_front_left wheel_front_right wheel_rear_left wheel_rear_right].freeze
      # common practice: a drop-out is shorter; what stays away longer reads nothing at all, or is another tyre
      SHORT_S = 2.0
      LEAST_SHARE = 0.8 # of the time in motion at zero: a dead wheel
      NOTHING_KM_H = 0.5
      LATE_S = 0.5 # from memory: channels of one module start within a few tenths of a second
      STRAIGHT_DEG_S = 2.0
      BEND_DEG_S = 6.0
      STEERED_DEG = 30.0
      STRAIGHT_STEER_DEG = 12.0
      BUMP_M_S2 = 2.5 # from one row to the next: from memory
      BUMP_SHARE = 0.12 # of the speed, that the others jump from one row to the next: from memory
      # length of the mean of the directions: they point the same way (handbook: circular statistics, from memory)
      SAME_PLACE = 0.9
      TURN_KNOWN = 0.25 # turns from row to row, within which the place on the wheel can be told

      # log: LiveLog; limits: rows of data/diagnosis/signal.yml by id; circumference_m: of the wheels, or nil.
      def initialize(log, limits, circumference_m: nil)
        @log = log
        @limits = limits
        @circumference_m = circumference_m
        @findings = []
        ids.each { |id| judge(id) } if ids.size >= 3
      end

      # Wheels that the log has.
      def ids
        @ids ||= IDS.select { |id| @log.has?(id) }
      end

      # Rows in which every wheel stands.
      def stationary_rows
        @stationary_rows ||= rows.select { |i| ids.any? && ids.all? { |id| value(id, i) < NOTHING_KM_H } }
      end

      # Speed of the vehicle at a row, in m/s.
      def speed(i)
        Quantity::Statistics.median(ids.map { |id| value(id, i) }) / 3.6
      end

      private

      def rows
        @log.time_s.each_index
      end

      def value(id, i)
        @log.values[id][i]
      end

      def time(i)
        @log.time_s[i]
      end

      def name(id)
        id.delete_prefix("wheel_").tr("_", " ")
      end

      # Median of the other wheels, row by row.
      def others(id)
        rest = ids - [id]
        (@others ||= {})[id] ||= rows.map { |i| Quantity::Statistics.median(rest.map { |other| value(other, i) }) }
      end

      def judge(id)
        moving = rows.select { |i| others(id)[i] > limit("moving_km_h") }
        return if moving.size < 4

        zero = moving.select { |i| value(id, i) < NOTHING_KM_H }
        if zero.size > LEAST_SHARE * moving.size
          add(
            "wheel_reads_zero",
            0.95,
            "The #{name(id)} wheel reads zero while the others rotate: sensor, wiring, tone ring missing.",
            at_s: [time(zero.first)],
            wheel: name(id)
          )
        else
          late = late_rows(id)
          late_to_start(id, late)
          dropouts(id, moving - late)
          ratio(id, moving)
        end
      end

      # Rows from standstill on in which the others roll and this one still reads nothing, of every start.
      def late_rows(id)
        still = false
        rows.select do |i|
          still = others(id)[i] < NOTHING_KM_H || (still && value(id, i) < NOTHING_KM_H)
          still && others(id)[i] >= NOTHING_KM_H
        end
      end

      def late_to_start(id, late)
        starts =
          late
            .slice_when { |a, b| b > a + 1 }
            .select do |start|
              span(start) > LATE_S && others(id)[start.last] > limit("moving_km_h") && start.last < rows.size - 1
            end
        return if starts.empty?

        from = Quantity::Statistics.median(starts.map { |start| others(id)[start.last] })
        add(
          "wheel_starts_late",
          [0.75 + (0.1 * starts.size), 0.95].min,
          "The #{name(id)} wheel reads zero until the others reach #{from.round(1)} km/h: gap too wide, weak sensor " \
            "or a loaded lead.",
          at_s: starts.map { |start| time(start.first) },
          wheel: name(id),
          count: starts.size,
          from_km_h: from.round(2)
        )
      end

      def dropouts(id, moving)
        low =
          moving.select do |i|
            others(id)[i] > limit("moving_km_h") * 1.6 && value(id, i) < limit("dropout_below") * others(id)[i]
          end
        bursts =
          low
            .slice_when { |a, b| b > a + 1 }
            .select { |burst| span(burst) <= SHORT_S || burst.all? { |i| value(id, i) < NOTHING_KM_H } }
        return if bursts.empty?

        moments = bursts.map { |burst| moment(id, burst) }
        add(
          "wheel_drops_out",
          [0.7 + (0.1 * bursts.size), 0.97].min,
          "The #{name(id)} wheel drops out #{bursts.size == 1 ? "once" : "#{bursts.size} times"}#{in_common(moments)}.",
          at_s: moments.map { |each| each[:time_s] },
          wheel: name(id),
          count: bursts.size,
          lost_s: bursts.sum { |burst| span(burst) }.round(2),
          at: moments
        )
      end

      # What most of the moments share, in words.
      def in_common(moments)
        shared =
          moments
            .flat_map { |each| each[:with] }
            .tally
            .select { |_, count| count >= 2 && count > moments.size / 2 }
            .keys
        shared << "at the same place of the wheel" if same_place?(moments.filter_map { |each| each[:turn] })
        shared.empty? ? "" : ", #{shared.join(" and ")}"
      end

      def same_place?(turns)
        return false if turns.size < 3

        angles = turns.map { |turn| turn * 2 * Math::PI }
        Math.hypot(angles.sum { |angle| Math.cos(angle) }, angles.sum { |angle| Math.sin(angle) }) / turns.size >
          SAME_PLACE
      end

      def span(burst)
        time(burst.last) - time(burst.first)
      end

      # When, what else happened then, and where the wheel stood (turns, 0..1) where rows are close enough to tell.
      def moment(id, burst)
        i = burst.first
        { time_s: time(i).round(2), with: events(id, i), turn: place(id, i)&.round(3) }.compact
      end

      def events(id, i)
        {
          "turning" => near(i, "yaw_rate") { |yaw, _| yaw.abs > BEND_DEG_S },
          "steering" => near(i, "steering_angle") { |angle, _| angle.abs > STEERED_DEG },
          "over a bump" => bump?(id, i),
          "low voltage" => near(i, "system_voltage") { |volts, _| volts < limit("low_volt") },
          "braking" => near(i, "brake_switch") { |on, _| on > 0.5 }
        }.select { |_, happened| happened }.keys
      end

      # In this row or the one before.
      def near(i, parameter)
        return false unless @log.has?(parameter)

        [i - 1, i].select { |k| k >= 0 }
          .any? { |k| yield value(parameter, k), (k.zero? ? value(parameter, k) : value(parameter, k - 1)) }
      end

      # A jolt sideways, or a jump in the speed of the other wheel of the axle or side.
      def bump?(id, i)
        return true if near(i, "lateral_acceleration") { |now, before| (now - before).abs > BUMP_M_S2 }

        (ids - [id]).any? do |other|
          near(i, other) { |now, before| before > limit("moving_km_h") && (now - before).abs > BUMP_SHARE * before }
        end
      end

      # Turns since the start, without the whole ones.
      def place(id, i)
        unless @circumference_m && i.positive? &&
                 others(id)[i] / 3.6 * (time(i) - time(i - 1)) < TURN_KNOWN * @circumference_m
          return
        end

        metres(id)[i] / @circumference_m % 1
      end

      def metres(id)
        (@metres ||= {})[id] ||= rows
          .drop(1)
          .reduce([0.0]) { |way, i| way << (way.last + (others(id)[i] / 3.6 * (time(i) - time(i - 1)))) }
      end

      def straight?(i)
        return value("yaw_rate", i).abs < STRAIGHT_DEG_S if @log.has?("yaw_rate")
        return value("steering_angle", i).abs < STRAIGHT_STEER_DEG if @log.has?("steering_angle")

        true
      end

      def ratio(id, moving)
        steady = moving.select { |i| others(id)[i] > 15 && straight?(i) && value(id, i) > 0.6 * others(id)[i] }
        return if steady.size < 5

        off = Quantity::Statistics.median(steady.map { |i| value(id, i) / others(id)[i] })
        return if (off - 1).abs < limit("wheel_off_from")

        add(
          "wheel_reads_off",
          0.9,
          "The #{name(id)} wheel reads #{((off - 1) * 100).round(1)} percent off the others, steadily: another tyre " \
            "or another ring.",
          wheel: name(id),
          ratio: off.round(4)
        )
      end
    end
  end
end
