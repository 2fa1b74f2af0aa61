# frozen_string_literal: true

module Gadwall
  module Signals
    # The brake switch of a log against the pressure that the pedal makes: lets go while the foot is down, never comes
    # on, never goes off.
    class LiveSwitch
      include Findings

      LEAST_ROWS = 3 # of a hold
      LEAST_OFF_S = 10.0 # common practice: watched for so long with the foot away

      # log: LiveLog with brake switch and pressure; limits: rows of data/diagnosis/signal.yml by id; rest_bar: what the
      # pressure reads with nobody braking.
      def initialize(log, limits, rest_bar: 0.0)
        @log = log
        @limits = limits
        @rest_bar = rest_bar
        @findings = []
        held if holds.any?
        released if watched_released?
      end

      # What could be judged: "held", "released".
      def judged
        { "held" => holds.any?, "released" => watched_released? }.select { |_, seen| seen }.keys
      end

      private

      def on?(i)
        @log.values["brake_switch"][i] > 0.5
      end

      def pressed?(i)
        @log.values["pressure"][i] > limit("pedal_held_bar") + @rest_bar
      end

      # Runs of rows with the foot down.
      def holds
        @holds ||=
          @log
            .time_s
            .each_index
            .select { |i| pressed?(i) }
            .slice_when { |a, b| b > a + 1 }
            .select { |hold| hold.size >= LEAST_ROWS }
      end

      def held
        inner = holds.map { |hold| hold[1..-2] }
        return never_on if inner.flatten.none? { |i| on?(i) }

        drops =
          inner.flat_map do |hold|
            hold.slice_when { |a, b| on?(a) != on?(b) }.reject { |run| on?(run.first) }.map(&:first)
          end
        return if drops.empty?

        add(
          "switch_drops_out",
          [0.75 + (0.08 * drops.size), 0.97].min,
          "The brake light switch drops out #{drops.size == 1 ? "once" : "#{drops.size} times"} while the pedal " \
            "is held.",
          at_s: drops.map { |i| @log.time_s[i] },
          count: drops.size
        )
      end

      def never_on
        add(
          "switch_stays_off",
          [0.75 + (0.08 * holds.size), 0.97].min,
          "The brake switch never comes on, while the pressure says that the foot is down: switch, its adjustment, " \
            "its feed.",
          at_s: holds.map { |hold| @log.time_s[hold.first] },
          count: holds.size
        )
      end

      # Rows without pressure. A foot that only rests on the pedal makes none, so only a switch that is on all the time
      # is wrong.
      def released_rows
        @released_rows ||=
          @log.time_s.each_index.select do |i|
            (@log.values["pressure"][i] - @rest_bar).abs < limit("pedal_held_bar") / 5.0
          end
      end

      def watched_released?
        released_rows.each_cons(2).sum { |a, b| b == a + 1 ? @log.time_s[b] - @log.time_s[a] : 0.0 } >= LEAST_OFF_S
      end

      def released
        return unless released_rows.all? { |i| on?(i) }

        add(
          "switch_stays_on",
          0.85,
          "The brake switch is on all the time, pressure or none: stuck, out of adjustment, or its lamp wire fed " \
            "from elsewhere.",
          at_s: [@log.time_s[released_rows.first]]
        )
      end
    end
  end
end
