# frozen_string_literal: true

module Gadwall
  module Simulator
    # What a module shows of what it measures: volts at its own connector, wheel speeds counted from pulses, switches
    # and angles as their circuits bring them.
    class LiveValues
      TURN_M = 1.95 # demo: circumference of a wheel, m
      TEETH = 48 # demo
      GAP_PERIODS = 3 # a module that counts a few periods sees a gap so long
      GAP_SHOWS = 0.5 # demo: what it shows meanwhile
      NOISE = 0.003 # demo: one sigma of a wheel speed, relative
      UNEVEN = 0.12 # demo: swing of a signal that comes and goes with the ring
      RATIO = 0.93 # demo: a ring of another count, or a tyre of another size, where its severity says no ratio
      WHEELBASE_M = 2.7 # demo
      TRACK_M = 1.55 # demo
      STEERING_RATIO = 16.0 # common practice: turns of the steering wheel to those of the wheels
      LEAST_KM_H = 1.0 # common practice: below it no speed is shown
      PRESSED_BAR = 30.0 # demo

      # vehicle: VehicleUnderTest; seed: of its noise.
      def initialize(vehicle, seed)
        @vehicle = vehicle
        @random = Random.new(seed)
      end

      # row: of data/simulation/data_identifiers.yml; ecu: Ecu that tells it. Returns a Float.
      def value(row, ecu)
        case row["id"]
        when /\Awheel_(\w+)\z/
          wheel(Regexp.last_match(1))
        when "vehicle_speed"
          state.speed_km_h
        when "brake_switch"
          switched? ? 1.0 : 0.0
        when "system_voltage"
          @vehicle.supply_volt(ecu.id) || @vehicle.system_volt
        when "steering_angle"
          told?("steering_angle") ? state.steering_deg : 0.0
        when "yaw_rate"
          told?("yaw_sensor") ? yaw_deg_s : 0.0
        when "brake_pressure"
          state.pedal == "pressed" && told?("brake_pressure") ? PRESSED_BAR : 0.0
        else
          0.0
        end
      end

      private

      def state
        @vehicle.state
      end

      # Does its circuit bring it? A circuit that is not fitted is asked for by nobody.
      def told?(id)
        circuit = @vehicle.system.circuits.find { |each| each.id == id }
        circuit.nil? || @vehicle.monitored(circuit).values.none?
      end

      # Of the middle of the rear axle, to the left positive.
      def yaw_deg_s
        radius = radius_m or return 0.0
        state.speed_km_h / 3.6 / radius * 180 / Math::PI
      end

      # Of the turn, to the left positive; nil straight ahead.
      def radius_m
        angle = state.steering_deg / STEERING_RATIO * Math::PI / 180
        angle.abs < 0.001 ? nil : WHEELBASE_M / Math.tan(angle)
      end

      # Counted from the pulses of its ring, as the wiring brings them.
      def wheel(corner)
        circuit = @vehicle.system.circuits.find { |each| each.id == corner }
        speed = state.speed_km_h * in_the_bend(corner)
        return 0.0 if circuit.nil? || speed < LEAST_KM_H

        condition = @vehicle.wiring.condition(circuit)
        shown = speed * pulses(circuit.model.predictor.module_signal(condition), speed, corner, circuit)
        shown * (1 + (NOISE * Quantity::Normal.draw(@random)))
      end

      # Inner wheels turn slower.
      def in_the_bend(corner)
        radius = radius_m or return 1.0
        side = { "left" => -1, "right" => 1 }.fetch(corner[/left|right/], 0)
        1 + (side * TRACK_M / 2 / radius)
      end

      # Share of the speed that is counted. signal: as the module sees it.
      def pulses(signal, speed, corner, circuit)
        case signal
        when "none"
          0.0
        when "weak"
          speed <= Monitors::WALKING_KM_H ? 0.0 : 1.0
        when "one_gap"
          turned(speed, corner) * TEETH < GAP_PERIODS ? GAP_SHOWS : 1.0
        when "uneven"
          1 + (UNEVEN * Math.sin(2 * Math::PI * turned(speed, corner)))
        when "ratio"
          ratio(circuit)
        else
          1.0
        end
      end

      # Where in its turn the wheel is, 0..1; the wheels do not begin alike.
      def turned(speed, corner)
        ((state.clock_s * speed / 3.6 / TURN_M) + (corner.sum / 100.0)) % 1.0
      end

      def ratio(circuit)
        given = @vehicle.wiring.present(circuit).map { |each| each.severity.to_f }
        given.find { |each| each.between?(0.5, 1.5) && each != 1.0 } || RATIO
      end

      def switched?
        circuit = @vehicle.system.circuits.find { |each| each.family == "brake_switch" }
        return state.pedal == "pressed" unless circuit

        @vehicle.wiring.measure("volts", circuit.id, %w[lamp@near_end ground], state) > @vehicle.system_volt / 2
      end
    end
  end
end
