# frozen_string_literal: true

module Gadwall
  module Simulator
    # A vehicle to plug into: wiring with hidden faults, modules that watch it and speak, and a state that hands, foot
    # and road change. Nothing here reads a clock or draws without its seed.
    class VehicleUnderTest
      DEAD = %w[module_dead].freeze # signs of a module that no longer speaks
      SPEEDS = [0.0, 6.0, 40.0].freeze # km/h at which a drive makes monitors run
      USUAL = 0.7 # demo: of the severities that are known, the mildest seven in ten are met
      STATE_S = 2.0 # how long monitors look after each change, demo

      attr_reader :system, :wiring, :state, :ecus, :dtc_table

      # sheet: Hash of a vehicle sheet; faults: full ids ("front_left.sensor.open"), "ID@SEVERITY" for one of a
      # severity, "ID~PRESENCE" for one that is there that share of the time; seed: Integer; fitted: ids of modules that
      # it has beside those of its circuits. Raises UnknownNameError, InputError.
      def initialize(sheet, faults: [], seed: 1, fitted: [])
        @seed = seed
        random = Random.new(seed)
        @fitted = ALWAYS | fitted
        @system = Gadwall::Vehicle::System.build(Gadwall::Vehicle::Sheet.new(Day.drawn(sheet, random)))
        @catalogue = system.catalogue
        @wiring = Wiring.new(system, faults.map { |text| hide(text, random) }, random)
        wiring.unpowered = method(:silent?)
        wiring.battery = method(:system_volt)
        @dtc_table = DtcTable.new(@catalogue)
        @state = VehicleState.new
        @monitors = system.circuits.to_h { |circuit| [circuit.id, Monitors.new(circuit, wiring)] }
        @ecus = modules.map { |record| Ecu.new(record, circuits_of(record["id"]), self) }
      end

      # Changes the state; monitors look at what came of it, for some seconds. settings: as of VehicleState#with.
      # Returns self.
      def set(**settings)
        change(**settings)
        look
        wait(STATE_S) if state.awake?
        self
      end

      # The same without letting time pass: whoever keeps the time calls `look`.
      def change(**settings)
        was = state
        @state = state.with(**settings)
        wake if state.awake? && !was.awake?
        wiring.shake if settings.key?(:speed_km_h) || settings.key?(:key)
        self
      end

      # Monitors of all modules that speak look once.
      def look
        there = speaking
        missing = (ecus - there).map(&:id)
        there.each { |ecu| ecu.look(state, missing: missing) }
      end

      # Hides one fault more. text: as of `initialize`. Raises UnknownNameError, InputError.
      def harm(text, random = Random.new(1))
        wiring.harm(hide(text, random))
      end

      # Lets time pass. seconds: Float. Returns self.
      def wait(seconds)
        @state = state.after(seconds)
        self
      end

      # All claims that monitors can make of a circuit of this system.
      def claims(circuit)
        @monitors.fetch(circuit.id).claims
      end

      # Claims about a circuit whose monitors ran in a state: {claim => failed?}. circuit: of this system.
      def monitored(circuit, state = @state)
        @monitors.fetch(circuit.id).run(state)
      end

      # Is a module silent: without power, or dead? id: of a module.
      def silent?(id)
        gone?(id) || hungry?(id)
      end

      # Would any monitor of a circuit fail within a drive with these faults in it, or its module be missed? faults:
      # Array of Wiring::Hidden.
      def failing?(circuit, faults = wiring.hidden)
        wiring.with_only(faults) do
          next true if circuit.module && silent?(circuit.module)

          SPEEDS.any? { |speed| monitored(circuit, state.with(key: "on", speed_km_h: speed)).values.any? }
        end
      end

      # Turns the key on, drives off and stands again: every monitor of ours has run once. Returns self.
      def drive
        set(key: "on")
        set(key: "ready", gear: "drive", speed_km_h: 40.0)
        wait(60)
        set(pedal: "pressed", speed_km_h: 20.0)
        set(speed_km_h: 6.0)
        set(speed_km_h: 0.0, gear: "park", key: "on")
        set(pedal: "released")
      end

      # Modules that can speak now: powered, and with a bus that reaches them.
      def speaking
        ecus.select { |ecu| state.awake? && powered?(ecu) && reached?(ecu) }
      end

      LIGHTS_FROM = 0.5 # of data/vehicle/lamps.yml: a lamp that is mostly lit for it

      # Ids of warning lamps that are lit (data/vehicle/lamps.yml): by circuits whose monitors fail, and by what was
      # left without calibration.
      def lamps
        lamps_of(system.circuits.select { |circuit| failing?(circuit) }, least: LIGHTS_FROM)
      end

      # What tells of trouble with the key on: lamps that are lit, modules that do not answer. Array of texts.
      def warnings
        lamps + ecus.reject { |ecu| answering?(ecu.id) }.map { |ecu| "#{ecu.id} silent" }
      end

      # Would a module answer with the key on? id: of a module.
      def answering?(id)
        found = ecu(id) or return false
        powered?(found) && reached?(found, state.awake? ? state : state.with(key: "on"))
      end

      # Ids of warning lamps that this vehicle has: those that any of its circuits can light.
      def lamps_fitted
        lamps_of(system.circuits)
      end

      # id: of a module. Returns an Ecu or nil.
      def ecu(id)
        ecus.find { |each| each.id == id }
      end

      # At the poles of the battery now, V.
      def system_volt
        state.battery_volt(system.sheet.system_voltage.to_i)
      end

      # Has this vehicle what a live value shows? row: of data/simulation/data_identifiers.yml.
      def shows?(row)
        row["circuits"].nil? || system.circuits.any? { |circuit| row["circuits"].include?(circuit.id) }
      end

      # What a live value shows. row: of data/simulation/data_identifiers.yml; ecu: Ecu that tells it. Returns a Float.
      def live(row, ecu)
        (@live_values ||= LiveValues.new(self, @seed)).value(row, ecu)
      end

      # Volts at a module's own connector, nil where the sheet has no supply of it. id: of a module.
      def supply_volt(id, at = state)
        supply = system.supply_of(id) or return
        wiring.measure("volts", supply.id, supply.harness.template["powers"]["probes"], at)
      end

      private

      # As Vehicle::Lamps.of, without messages.
      def lamps_of(circuits, **least)
        Vehicle::Lamps.of(@catalogue, circuits, **least).select { |id| @catalogue.lamps.fetch(id)["kind"] == "lamp" }
      end

      def finite(text)
        Quantity::Decimal.read(text) or raise ArgumentError
      end

      # "front_left.sensor.open", or with a severity: "front_left.wire_signal.a_to_b.high_resistance@120".
      def hide(text, random)
        rest, presence = text.split("~", 2)
        id, severity = rest.split("@", 2)
        circuit, fault = system.fault(id)
        known = fault.severities.map(&:first)
        value = severity ? finite(severity) : known.first((known.size * USUAL).ceil).sample(random: random)
        Wiring::Hidden.new(
          circuit: circuit,
          fault: fault,
          severity: value,
          presence: presence ? finite(presence).clamp(0.0, 1.0) : 1.0
        ).freeze
      rescue ArgumentError
        raise InputError.new(field: "--fault", given: text, expected: "a fault's name, NAME@NUMBER, NAME~SHARE")
      end

      # Modules that the circuits of this vehicle name, and those that every such vehicle has.
      ALWAYS = %w[engine transmission body cluster gateway restraints].freeze

      def modules
        named =
          system.circuits.map(&:module) + system.circuits.flat_map { |circuit| circuit.harness.modules.map(&:first) }
        @catalogue.simulated_modules.values.select { |record| (@fitted | named.compact).include?(record["id"]) }
      end

      # A module reads its own circuits, and misses others on the buses that it hangs on.
      def circuits_of(id)
        system.circuits.select do |circuit|
          circuit.module == id || (circuit.module.nil? && circuit.harness.modules.any? { |name, _| name == id })
        end
      end

      def wake
        ecus.each { |ecu| [ecu.new_cycle, ecu.restart] }
      end

      # Is there enough voltage at its own connector?
      def powered?(ecu)
        return false if dead?(ecu)

        !hungry?(ecu.id)
      end

      # Has a module too little voltage at its connector to work, with the key on? id: of a module.
      def hungry?(id)
        volts = supply_volt(id, state.awake? ? state : state.with(key: "on")) or return false
        volts < system.supply_of(id).model.least_power_volt
      end

      # Is the module itself gone, whatever feeds it?
      def dead?(ecu)
        gone?(ecu.id) ||
          ecu.circuits.any? { |circuit| wiring.condition(circuit).observables.include?("silent_#{ecu.id}") }
      end

      # Has it a fault that leaves it dead? id: of a module.
      def gone?(id)
        wiring.hidden.any? { |each| each.circuit.module == id && kills?(each) }
      end

      def kills?(each)
        Circuits::Effect.condition(each.circuit.harness, each.fault, each.severity).observables.intersect?(DEAD)
      end

      # Does its bus carry anything behind its connector? Who hangs on none of ours is reached.
      def reached?(ecu, at = state)
        buses = system.buses_of(ecu.id)
        buses.empty? || buses.any? { |bus| monitored(bus, at).fetch("lost_#{ecu.id}", false) == false }
      end
    end
  end
end
