# frozen_string_literal: true

module Gadwall
  module Simulator
    # How a simulated vehicle stands at a moment: what hands, foot and road do to it. Frozen; `with` gives another.
    #
    # key: "off", "on" or "ready"; pedal: "released" or "pressed"; gear: "park", "neutral" or "drive"; speed_km_h;
    # steering_deg; disconnected: {circuit id => [connector id, ...]}; level: of the brake fluid, "full" or "low";
    # command: to the park brake, "none", "apply" or "release"; battery_as: ampere-seconds left; support: is a support
    # unit on?; clock_s: seconds since it came in; wet, warm: true or false.
    class VehicleState
      FULL_AS = 60 * 3600.0 # demo: a battery of 60 Ah
      KEY_ON_A = 12.0 # common practice: some 8 to 15 A with the key on
      ASLEEP_A = 0.05 # common practice: under 50 mA asleep
      DEFAULTS = {
        key: "off",
        pedal: "released",
        gear: "park",
        speed_km_h: 0.0,
        steering_deg: 0.0,
        disconnected: {}.freeze,
        level: "full",
        command: "none",
        battery_as: FULL_AS,
        support: false,
        clock_s: 0.0,
        wet: false,
        warm: false
      }.freeze

      DEFAULTS.each_key { |name| define_method(name) { @settings.fetch(name) } }

      def initialize(**settings)
        unknown = settings.keys - DEFAULTS.keys
        if unknown.any?
          raise UnknownNameError.new(field: "state", given: unknown.first, known: DEFAULTS.keys.map(&:to_s))
        end

        @settings = DEFAULTS.merge(settings).freeze
        freeze
      end

      # The same with some settings changed.
      def with(**settings)
        VehicleState.new(**@settings, **settings)
      end

      # Some seconds later: the battery runs down, or is held by the support unit.
      def after(seconds)
        drawn =
          (
            if support
              0.0
            else
              seconds * (key == "off" ? ASLEEP_A : KEY_ON_A)
            end
          )
        with(clock_s: clock_s + seconds, battery_as: [battery_as - drawn, 0.0].max)
      end

      # Is the key on, or the vehicle ready?
      def awake?
        key != "off"
      end

      # Does it stand still?
      def still?
        speed_km_h.zero?
      end

      FLAT = 0.1 # common practice: below a tenth of its charge a battery breaks down under load
      FLAT_VOLT = 5.0 # demo

      # Battery voltage at its poles, V; by charge, linear between flat and full (handbook: lead-acid at rest 11.8 to
      # 12.7 V, from memory). system: 12 or 24.
      def battery_volt(system = 12)
        cells = system / 12.0
        return 13.6 * cells if support
        return 14.1 * cells if key == "ready"

        (at_rest(battery_as / FULL_AS) - (awake? ? 0.2 : 0.0)) * cells
      end

      # As the wiring of a circuit sees it. circuit_id: text. Returns a Circuits::Harness::State.
      def for_circuit(circuit_id)
        Circuits::Harness::State.of(
          disconnected: disconnected.fetch(circuit_id, []),
          key: awake? ? "on" : "off",
          pedal: pedal,
          level: level,
          command: command,
          bus: awake? ? "busy" : "asleep",
          pump: awake? && pedal == "pressed" ? "running" : "stopped"
        )
      end

      def ==(other)
        other.is_a?(VehicleState) && settings == other.settings
      end
      alias eql? ==

      # As `==`.
      def hash
        @settings.hash
      end

      private

      # charge: 0..1. Returns V of a 12 V battery.
      def at_rest(charge)
        return 11.6 + (1.1 * charge) if charge >= FLAT

        FLAT_VOLT + ((charge / FLAT) * (11.6 + (1.1 * FLAT) - FLAT_VOLT))
      end

      protected

      attr_reader :settings
    end
  end
end
