# frozen_string_literal: true

module Gadwall
  module Training
    # What is done to a vehicle on the stand without a tool in the hand: key, pedal, lifting, joints, safety.
    module StandActs
      # Minutes of an act that nothing else says; demo.
      MINUTES = {
        "key" => 0.2,
        "pedal" => 0.1,
        "support" => 2.0,
        "chock" => 0.5,
        "lift" => 2.0,
        "stands" => 1.0,
        "lower" => 2.0,
        "wheel" => 3.0,
        "drive" => 8.0
      }.freeze
      # Acts of making safe: what each does in the words of plans, and its minutes; demo, the waits common practice.
      SAFE = {
        "high_voltage_off" => ["zero:high_voltage", 12.0, "Service disconnect out, ten minutes waited"],
        "no_voltage_proven" => ["prove:no_voltage", 3.0, "Meter proven, no voltage measured, meter proven again"],
        "accumulator_empty" => ["zero:accumulator", 4.0, "Accumulator emptied"],
        "pressure_read" => ["prove:pressure_zero", 1.0, "Pressure read: zero"],
        "air_drained" => ["zero:air", 5.0, "Reservoirs drained, gauges at zero"],
        "battery_off" => ["zero:battery", 3.0, "Battery ground off"],
        "airbag_off" => ["zero:airbag", 5.0, "Battery off, the restraint system's time waited"],
        "park_brake_service" => ["zero:park_brake_motor", 2.0, "Park brake in its service position"]
      }.freeze

      private

      def act_key(act)
        to = act["to"].to_s
        refuse("key", to, "off, on or ready") unless %w[off on ready].include?(to)

        spend(MINUTES["key"])
        vehicle.set(key: to)
        say("key", { "off" => "Key off", "on" => "Key on, engine off", "ready" => "Running" }.fetch(to))
      end

      def act_pedal(act)
        to = act["to"].to_s
        refuse("pedal", to, "pressed or released") unless %w[pressed released].include?(to)

        spend(MINUTES["pedal"])
        vehicle.set(pedal: to)
        say("pedal", "Brake pedal #{to}")
      end

      def act_support(act)
        on = act["to"] == "on"
        spend(MINUTES["support"])
        vehicle.set(support: on)
        say("support", on ? "Battery support on" : "Battery support off")
      end

      def act_chock(_act)
        spend(MINUTES["chock"])
        @made_safe |= ["chock:wheels"]
        say("chock", "Wheels chocked")
      end

      def act_lift(_act)
        spend(MINUTES["lift"])
        return ends("chock") unless safe?("chock:wheels")

        @lifted = true
        say("lift", "Lifted")
      end

      def act_stands(_act)
        refuse("stands", "on the ground", "a lifted vehicle", "Lift it first.") unless lifted?

        spend(MINUTES["stands"])
        @made_safe |= ["stands"]
        say("stands", "Stands under it, weight on them")
      end

      def act_lower(_act)
        refuse("lower", "wheels off", "all wheels on", "Put the wheels on first.") if @wheels_off.any?

        spend(MINUTES["lower"])
        @lifted = false
        @made_safe -= ["stands"]
        say("lower", "On the ground")
      end

      def act_wheel(act)
        corner = act["corner"].to_s
        off = act["to"] == "off"
        corners = Vehicle::CORNERS.keys + %w[trailer_left trailer_right]
        raise UnknownNameError.new(field: "wheel", given: corner, known: corners) unless corners.include?(corner)

        refuse("wheel", corner, "a lifted vehicle", "Lift it first.") unless lifted?
        spend(MINUTES["wheel"])
        return ends("stands") if off && !safe?("stands")

        off ? @wheels_off |= [corner] : @wheels_off -= [corner]
        say("wheel", "Wheel #{corner.tr("_", " ")} #{off ? "off" : "on"}")
      end

      # A joint taken apart. With the key on it writes codes, as in the shop.
      def act_unplug(act)
        joint = joint(act)
        reach(circuit(act), joint)
        danger = past(circuit(act))
        return danger if danger

        spend(joint.minutes)
        apart = state.disconnected.merge(act["circuit"] => apart(act["circuit"]) | [joint.id])
        vehicle.set(disconnected: apart)
        warning = "The key is on: modules have set codes for it." if state.awake?
        say("unplug", "#{joint.name} disconnected", warning: warning)
      end

      def act_plug(act)
        joint = joint(act)
        spend(1.0)
        vehicle.set(disconnected: state.disconnected.merge(act["circuit"] => apart(act["circuit"]) - [joint.id]))
        say("plug", "#{joint.name} connected, locked")
      end

      def act_safe(act)
        word, minutes, text = SAFE.fetch(act["what"].to_s) { raise unknown_safe(act) }
        spend(minutes)
        @made_safe |= [word]
        say("safe", text)
      end

      def unknown_safe(act)
        UnknownNameError.new(field: "safe", given: act["what"], known: SAFE.keys)
      end

      # On the road: every monitor runs. What is apart is put together before.
      def act_drive(_act)
        refuse("drive", "lifted", "a vehicle on its wheels", "Lower it first.") if lifted?
        unless state.disconnected.values.all?(&:empty?)
          refuse("drive", "a connector disconnected", "every connector connected", "Connect them first.")
        end

        spend(MINUTES["drive"])
        3.times { vehicle.drive }
        say("drive", lit.empty? ? "Driven: no lamp" : "Driven: lit #{lit.join(", ")}")
      end

      # Lamps in words.
      def lit
        lamps.map { |id| system.catalogue.lamps.dig(id, "short") }
      end

      def joint(act)
        circuit(act).harness.connector(act["joint"].to_s)
      end

      # What a joint asks for to be reached.
      def reach(circuit, joint)
        return unless joint.needs == "wheel_off"

        corner = circuit.corner || circuit.id
        return if @wheels_off.include?(corner)

        refuse(
          joint.name,
          "wheel on",
          "the wheel off",
          "Lift the vehicle, put stands under it and take the wheel off first."
        )
      end

      # Ends where the way to a circuit leads past high voltage or stored pressure that was not taken away; nil where it
      # may be gone.
      def past(circuit)
        dangers = Diagnosis::Cautions.on_the_way(circuit, system.sheet)
        return ends("high_voltage") if dangers.include?("high_voltage") && !safe?("zero:high_voltage")

        ends("no_voltage") if dangers.include?("high_voltage") && !safe?("prove:no_voltage")
      end
    end
  end
end
