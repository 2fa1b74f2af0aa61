# frozen_string_literal: true

module Gadwall
  module Signals
    # Park brake and pump in a log of live data: strokes of the motors by their current, left against right, states that
    # change with no current, a pump that does not stop.
    class LiveActuators
      include Findings

      CURRENTS = {
        "park_brake_current" => nil,
        "park_brake_current_left" => "left",
        "park_brake_current_right" => "right"
      }.freeze
      STROKE_GAP_S = 0.3 # of no current, that ends a stroke
      SIDES_DIFFER = 0.3 # common practice: compare with the other side; from memory

      # log: LiveLog; limits: rows of data/diagnosis/signal.yml by id.
      def initialize(log, limits)
        @log = log
        @limits = limits
        @findings = []
        park_brake if currents.any?
        pump if @log.has?("pump_state")
      end

      # What was seen: {park_brake: {side => {strokes:, most_a:, longest_s:}}, pump: {runs:, share:, longest_s:}}, where
      # logged.
      def to_h
        seen = {}
        if currents.any?
          seen[:park_brake] = currents.to_h do |id|
            [
              side(id),
              { strokes: strokes(id).size, most_a: most(id).round(2), longest_s: longest(strokes(id)).round(2) }
            ]
          end
        end
        if @log.has?("pump_state")
          seen[:pump] = { runs: pump_runs.size, share: share.round(3), longest_s: longest(pump_runs).round(2) }
        end
        seen
      end

      private

      def currents
        CURRENTS.keys.select { |id| @log.has?(id) }
      end

      def side(id)
        CURRENTS.fetch(id) || "motor"
      end

      def times
        @log.time_s
      end

      # Rows that belong together.
      def runs(rows)
        rows.slice_when { |a, b| times[b] - times[a] > [STROKE_GAP_S, times[a + 1] - times[a] + 1e-9].max }.to_a
      end

      def strokes(id)
        (@strokes ||= {})[id] ||= runs(times.each_index.select { |i| @log.values[id][i].abs > limit("motor_open_a") })
      end

      def most(id)
        @log.values[id].map(&:abs).max
      end

      def longest(runs)
        runs.map { |run| times[run.last] - times[run.first] }.max || 0.0
      end

      def park_brake
        currents.each { |id| no_current(id) }
        sides
      end

      # The brake is said to have moved, or the other motor ran, and this one drew nothing.
      def no_current(id)
        return unless strokes(id).empty?

        moved =
          if @log.has?("park_brake_state")
            times
              .each_index
              .drop(1)
              .reject { |i| @log.values["park_brake_state"][i] == @log.values["park_brake_state"][i - 1] }
          else
            []
          end
        moved += (currents - [id]).flat_map { |other| strokes(other).map(&:first) }
        return if moved.empty?

        add(
          "park_brake_no_current",
          0.9,
          "The park brake was driven and its #{side(id)}#{" motor" unless side(id) == "motor"} drew no current: " \
            "motor, wiring or motor driver open circuit.",
          at_s: moved.sort.map { |i| times[i] },
          side: side(id)
        )
      end

      def sides
        left, right =
          %w[park_brake_current_left park_brake_current_right].map do |id|
            @log.has?(id) && strokes(id).any? ? most(id) : nil
          end
        return unless left && right && (left - right).abs > SIDES_DIFFER * [left, right].max

        high, low = left > right ? %w[left right] : %w[right left]
        add(
          "park_brake_sides_differ",
          0.8,
          "The #{low} park-brake motor draws " \
            "#{[left, right].min.round(1)} A at the most, the #{high} one #{[left, right].max.round(1)} A: measure " \
            "the feed of the #{low} one under load.",
          left_a: left.round(2),
          right_a: right.round(2)
        )
      end

      def pump_runs
        @pump_runs ||= runs(times.each_index.select { |i| @log.values["pump_state"][i] > 0.5 })
      end

      def share
        whole = times.last - times.first
        whole.positive? ? pump_runs.sum { |run| times[run.last] - times[run.first] } / whole : 0.0
      end

      def pump
        return if longest(pump_runs) <= limit("pump_endless_s")

        add(
          "pump_runs_on",
          0.9,
          "The pump runs #{longest(pump_runs).round} s without a stop: it does not build pressure, or its switch or " \
            "relay does not let go.",
          at_s: [times[pump_runs.max_by { |run| times[run.last] - times[run.first] }.first]],
          longest_s: longest(pump_runs).round(1)
        )
      end
    end
  end
end
