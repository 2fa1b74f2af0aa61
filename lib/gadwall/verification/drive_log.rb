# frozen_string_literal: true

module Gadwall
  module Verification
    # What a log of live data says of the legs of a proof drive: how much of each was driven in its conditions. It says
    # that a leg was driven, never that the monitors ran: their status is read standing.
    class DriveLog
      GAP_S = 2.0 # between two rows, after which nothing is known of the drive: from memory

      # leg: id; driven: everything that a log can show of it was driven; said: what was, in a sentence.
      Shown =
        Struct.new(:leg, :driven, :said, keyword_init: true) do
          # For the log of a job: String keys.
          def to_entry
            to_h.transform_keys(&:to_s)
          end
        end

      # log: Signals::LiveLog.
      def initialize(log, catalogue: Knowledge.catalogue)
        @log = log
        @limits = catalogue.signal
        @legs = catalogue.drive_legs
        @wheels = Signals::LiveWheels::IDS.select { |id| log.has?(id) }
      end

      # Wheels that the log has, by their parameters. Without any it shows no leg.
      attr_reader :wheels

      # leg: Repair::DriveLegs::Leg. Returns a Shown, nil where a log says nothing of such a leg.
      def of(leg)
        asked = wheels.any? && @legs.dig(leg.leg, "in_log") or return
        parts = asked.filter_map { |name| part(name, leg) }
        return if parts.empty?

        Shown.new(leg: leg.id, driven: parts.all?(&:last), said: parts.map(&:first).join(", ")).freeze
      end

      private

      def part(name, leg)
        case name
        when "distance"
          distance(leg)
        when "seconds"
          seconds(leg)
        when "stops"
          stops(leg)
        when "bends"
          bends(leg)
        else
          deceleration
        end
      end

      def limit(id)
        @limits.fetch(id)["value"]
      end

      # Speed of the vehicle in km/h, row by row.
      def speeds
        @speeds ||=
          @log.time_s.each_index.map { |i| Quantity::Statistics.median(@wheels.map { |id| @log.values[id][i] }) }
      end

      # Seconds from a row to the next, 0 over a gap.
      def steps
        @steps ||= @log.time_s.each_cons(2).map { |a, b| b - a > GAP_S ? 0.0 : b - a } + [0.0]
      end

      # Rows in which the speed is that of the leg.
      def rows(leg)
        low, high = leg.speed_km_h
        speeds.each_index.select { |i| low.nil? || speeds[i].between?(low, high) }
      end

      def at(leg)
        leg.speed_km_h ? " at #{leg.speed_km_h.join(" to ")} km/h" : ""
      end

      def distance(leg)
        return unless leg.distance_m

        metres = rows(leg).sum { |i| speeds[i] / 3.6 * steps[i] }
        ["#{metres.round} of #{leg.distance_m} m#{at(leg)}", metres >= leg.distance_m]
      end

      def seconds(leg)
        return unless leg.seconds

        seconds = rows(leg).sum { |i| steps[i] }
        ["#{seconds.round} of #{leg.seconds} s#{at(leg) unless leg.distance_m}", seconds >= leg.seconds]
      end

      # A stop: the wheels stand after the vehicle moved, and was no faster than the leg asks.
      def stops(leg)
        return unless leg.stops.to_i.positive?

        count = stop_speeds.count { |most| leg.speed_km_h.nil? || most >= leg.speed_km_h.first }
        ["#{count} of #{leg.stops} stops", count >= leg.stops]
      end

      # The highest speed before each stop.
      def stop_speeds
        @stop_speeds ||=
          speeds
            .slice_when { |a, b| standing?(a) != standing?(b) }
            .each_cons(2)
            .filter_map do |moving, still|
              moving.max if standing?(still.first) && moving.max >= limit("stop_from_km_h")
            end
      end

      def standing?(speed)
        speed < Signals::LiveWheels::NOTHING_KM_H
      end

      # Both ways at the speed of the leg, by yaw rate or else by the wheels of an axle.
      def bends(leg)
        return "no yaw rate and no axle in the log", false unless turns

        at_speed = turns.values_at(*rows(leg))
        seen =
          { "left" => at_speed.any?(&:positive?), "right" => at_speed.any?(&:negative?) }.select { |_, yes| yes }.keys
        ["#{seen.empty? ? "no bend" : "bends #{seen.join(" and ")}"}#{at(leg)}", seen.size == 2]
      end

      # Per row: 1 in a bend to the left, -1 in one to the right, 0 straight; nil where nothing tells.
      def turns
        return @turns if defined?(@turns)

        rates, least = turning
        @turns = rates && speeds.each_index.map { |i| standing?(speeds[i]) ? 0 : way(rates[i], least) }
      end

      # What tells a bend, row by row, and from how much on; nil where nothing does.
      def turning
        return @log.values["yaw_rate"], limit("drive_bend_deg_s") if @log.has?("yaw_rate")

        left, right = axle
        left && [speeds.each_index.map { |i| ratio(left, right, i) }, limit("drive_bend_ratio")]
      end

      def ratio(left, right, i)
        speeds[i].zero? ? 0.0 : (@log.values[right][i] - @log.values[left][i]) / speeds[i]
      end

      def way(value, least)
        value.abs < least ? 0 : value <=> 0
      end

      def axle
        [%w[wheel_rear_left wheel_rear_right], %w[wheel_front_left wheel_front_right]].find { |pair| @log.has?(*pair) }
      end

      def deceleration
        most = (1...speeds.size).filter_map { |i| slowing(i) }.max || 0.0
        ["#{most.round(1)} m/s² at the hardest", most >= limit("hard_stop_m_s2")]
      end

      # Of the vehicle over half a second up to a row, in m/s²; nil where the log does not tell.
      def slowing(i)
        from = i
        from -= 1 while from.positive? && @log.time_s[i] - @log.time_s[from] < HALF_S
        seconds = @log.time_s[i] - @log.time_s[from]
        (speeds[from] - speeds[i]) / 3.6 / seconds if seconds.between?(HALF_S, GAP_S)
      end

      HALF_S = 0.5 # a row more or less is no stop
      private_constant :HALF_S
    end
  end
end
