# frozen_string_literal: true

module Gadwall
  module Signals
    # Steering angle, yaw rate, lateral acceleration and wheel speeds of a log against one another, as yaw rates in
    # bends (KI-06, common practice): who differs from two that agree is the suspect. Straight ahead, the steering angle
    # against the others.
    class LiveBends
      include Findings

      BEND_DEG_S = 6.0
      LEAST_ROWS = 5
      STRAIGHT_DEG_S = 2.0
      LEAST_STRAIGHT_ROWS = 20
      LEAST_M_S = 4.0
      OFF_UNITS = {
        "steering_angle" => "degrees",
        "yaw_rate" => "degrees a second",
        "lateral_acceleration" => "m/s2"
      }.freeze

      # Parameters that could be judged: [id, ...].
      attr_reader :judged

      # log: LiveLog; limits: rows of data/diagnosis/signal.yml by id; wheels: LiveWheels.
      def initialize(log, limits, wheels)
        @log = log
        @limits = limits
        @wheels = wheels
        @findings = []
        @judged = []
        rates = estimates
        judge(rates)
        straight_ahead(rates) if findings.none? && @log.has?("steering_angle")
      end

      private

      def judge(rates)
        return if rates.size < 3

        rows = @log.time_s.each_index.select { |i| rates.values.count { |values| values[i].abs > BEND_DEG_S } >= 2 }
        return if rows.size < LEAST_ROWS

        apart =
          rates
            .keys
            .combination(2)
            .to_h { |a, b| [[a, b], Quantity::Statistics.median(rows.map { |i| (rates[a][i] - rates[b][i]).abs })] }
        agree = apart.min_by(&:last).first
        return if apart[agree] > limit("disagrees_deg_s")

        @judged = rates.keys
        (rates.keys - agree).each do |id|
          far = agree.map { |other| apart.fetch([id, other]) { apart[[other, id]] } }.min
          differs(id, agree, rates, rows) if far > limit("disagrees_deg_s")
        end
      end

      def differs(id, agree, rates, rows)
        apart = rows.map { |i| rates[id][i] - ((rates[agree[0]][i] + rates[agree[1]][i]) / 2) }
        by = Quantity::Statistics.median(apart)
        steady = steadily(rows.map { |i| rates[agree[0]][i] }, apart, by)
        off = off_zero(id, rates, agree, rows) unless steady == false
        add(
          "disagrees",
          0.9,
          "#{id.tr("_", " ").capitalize} does not fit " \
            "#{agree.map { |other| other.tr("_", " ") }.join(" and ")} in bends, by #{by.round(1)} degrees a " \
            "second#{off_words(id, off)}.",
          at_s: [@log.time_s[rows.first]],
          parameter: id,
          by_deg_s: by.round(2),
          others: agree,
          steadily: steady,
          off_zero: off&.round(2)
        )
      end

      def off_words(id, off)
        off ? ": its zero is off by #{off.round(1)} #{OFF_UNITS[id]}" : ""
      end

      # By how much it reads too much in its own unit, or nil for what has none (wheel speeds).
      def off_zero(id, rates, agree, rows)
        true_rate = ->(i) { (rates[agree[0]][i] + rates[agree[1]][i]) / 2 }
        moving = rows.select { |i| @wheels.speed(i) > LEAST_M_S }
        return if moving.empty?

        case id
        when "yaw_rate"
          Quantity::Statistics.median(rows.map { |i| rates[id][i] - true_rate.call(i) })
        when "lateral_acceleration"
          off = moving.map { |i| Kinematics.lateral(@wheels.speed(i), rates[id][i] - true_rate.call(i)) }
          Quantity::Statistics.median(off)
        when "steering_angle"
          Quantity::Statistics.median(
            moving.map { |i| steering_deg(i, rates[id][i]) - steering_deg(i, true_rate.call(i)) }
          )
        end
      end

      # Wheel speeds and yaw or lateral sensor say straight; the steering angle does not.
      def straight_ahead(rates)
        others = rates.except("steering_angle").values
        rows =
          @log.time_s.each_index.select do |i|
            @wheels.ids.any? && @wheels.speed(i) > LEAST_M_S && others.all? { |values| values[i].abs < STRAIGHT_DEG_S }
          end
        return if others.size < 2 || rows.size < LEAST_STRAIGHT_ROWS

        off = Quantity::Statistics.median(rows.map { |i| value("steering_angle", i) })
        return if off.abs < limit("rest_steering_deg")

        add(
          "disagrees",
          0.85,
          "Steering angle reads #{off.round(1)} degrees while the vehicle goes straight: zero it, wheels straight.",
          at_s: [@log.time_s[rows.first]],
          parameter: "steering_angle",
          by_deg_s: Quantity::Statistics.median(rows.map { |i| rates["steering_angle"][i] }).round(2),
          others: rates.keys - ["steering_angle"],
          steadily: true,
          off_zero: off.round(2)
        )
      end

      # Off by the same amount in bends to either side? nil where all went one way, so that nobody can say.
      def steadily(turning, apart, by)
        left, right = apart.each_index.partition { |i| turning[i].positive? }.map { |side| side.map { |i| apart[i] } }
        return if left.size < LEAST_ROWS || right.size < LEAST_ROWS

        [left, right].all? { |side| (Quantity::Statistics.median(side) - by).abs < limit("disagrees_deg_s") / 2 }
      end

      # {parameter => yaw rate by row}; logs that count right turns positive are turned round.
      def estimates
        rates = {}
        if rear_wheels?
          rates["wheel_speeds"] = rows do |i|
            Kinematics.yaw_of_wheels(
              value("wheel_rear_left", i) / 3.6,
              value("wheel_rear_right", i) / 3.6,
              track_m: limit("track_m")
            )
          end
        end
        rates["yaw_rate"] = @log.values["yaw_rate"].dup if @log.has?("yaw_rate")
        rates["steering_angle"] = rows { |i| steering_yaw(i) } if @log.has?("steering_angle") && @wheels.ids.any?
        if @log.has?("lateral_acceleration") && @wheels.ids.any?
          rates["lateral_acceleration"] = rows do |i|
            Kinematics.yaw_of_lateral(@wheels.speed(i), value("lateral_acceleration", i)) || 0.0
          end
        end
        first = rates.values.first
        rates.transform_values { |values| first.zip(values).sum { |a, b| a * b }.negative? ? values.map(&:-@) : values }
      end

      # Are both there, and none of them already told to be wrong?
      def rear_wheels?
        @log.has?("wheel_rear_left", "wheel_rear_right") &&
          @wheels.findings.none? { |finding| finding[:wheel].start_with?("rear") }
      end

      def rows(&)
        @log.time_s.each_index.map(&)
      end

      def value(id, i)
        @log.values[id][i]
      end

      def steering_yaw(i)
        Kinematics.yaw_of_steering(@wheels.speed(i), value("steering_angle", i), **vehicle)
      end

      def steering_deg(i, yaw)
        Kinematics.steering_of_yaw(@wheels.speed(i), yaw, **vehicle)
      end

      def vehicle
        {
          wheelbase_m: limit("wheelbase_m"),
          ratio: limit("steering_ratio"),
          characteristic_m_s: limit("characteristic_m_s")
        }
      end
    end
  end
end
