# frozen_string_literal: true

# Every test of ten vehicles, rendered as the technician reads it: it can be carried out as written, on this vehicle's
# own connectors and pins, by the persons it names, without hurting anybody or anything. Rules from
# shared/design/trade.md, 1.2, 2.1 to 2.3; common practice.
RSpec.describe "Statements of tests" do
  vehicles = {
    **Gadwall::Evaluation::OwnCircuits::Study::VEHICLES, # between them every circuit of data/circuits
    "electric van" => {
      "power" => "electric",
      "booster" => "electric_pump",
      "booster_box" => "one_box",
      "park_brake" => "caliper_motor",
      "park_brake_driver" => "abs",
      "stability" => "yes"
    },
    "three sensors" => {
      "layout" => "three_sensors",
      "sensors" => "passive"
    },
    "pigtail sensors" => {
      "sensors" => "active",
      "sensor_lead" => "pigtail"
    },
    "no bus" => {
      "sensors" => "active",
      "bus" => "none",
      "single_wire" => "yes"
    },
    "own harness" => {
      "sensors" => "active",
      "circuits" => {
        "front_left" => {
          "joints" => [
            { "id" => "module_plug", "name" => "module connector" },
            { "id" => "arch_splice", "name" => "splice in the arch", "kind" => "splice" },
            { "id" => "knuckle_plug", "name" => "knuckle connector", "needs" => "wheel_off" }
          ],
          "sections" => Array.new(2) { { "length_m" => 1.0, "cross_section_mm2" => 0.5 } }
        }
      }
    }
  }

  # Words that say that the wire hangs on no battery, or that the probes stand on the part's own side.
  PART_SIDE =
    /
    battery\ negative\ off|fuse\ out|fuse\ \S+\ out|motor\ side|component\ side|sensor\ side|switch\ side|own\ pins|
    two\ pins\ of\ the|pins\ of\ the\ switch
  /ix
  SENSOR_FAMILIES = %w[wheel_speed pressure_sensor sensor_cluster fluid_level pad_wear monitored_switch].freeze

  # Does the wire of a probe pass the connector that it names?
  passes =
    lambda do |harness, probe|
      wire, place = probe.split("@")
      next true unless place&.match?(/\.(?:near|far)\z/)

      connector = harness.connectors.find { |each| each.id == place.split(".").first }
      connector.nil? || connector.carries?(harness.wire(wire))
    end

  vehicles.each do |name, sheet|
    describe name do
      sheet = Gadwall::Vehicle::Sheet.new({ "name" => name }.merge(sheet))
      system = Gadwall::Vehicle::System.build(sheet, models: CoreHelp::MODELS)
      tests =
        system.circuits.flat_map do |circuit|
          circuit.model.tests.values.map { |test| [circuit, test, "#{test.title} #{test.where}"] }
        end

      wires = system.circuits.flat_map { |circuit| circuit.harness.wires.map(&:id) }.uniq.join("|")
      # What every test keeps. A rule is given a circuit, a test of it, and the words of the test.
      rules = {
        "names only what is there: no gap left in the words, no wire where a pin belongs" =>
          lambda { |_, _, text| !text.match?(/[{}]|\bpins? (?:#{wires}|through|s\d)\b|  /) },
        "takes apart only what comes apart, and measures a wire only where it passes" =>
          lambda do |circuit, test, _|
            apart = circuit.harness.connectors.select { |each| test.state.disconnected.include?(each.id) }
            at_fuse = test.probes.any? { |probe| probe.match?(/\A\w+@\w+\.(?:near|far)\z/) }
            (test.record["opens_splice"] || apart.none? { |each| each.kind == "splice" }) &&
              (!at_fuse || test.probes.all? { |probe| passes.call(circuit.harness, probe) })
          end,
        "measures no ohms on a live feed" =>
          lambda do |circuit, test, text|
            next true unless test.kind == "ohms"

            fed = circuit.harness.connectors.find { |each| each.kind == "fuse_box" }
            feed = test.probes.any? { |probe| probe.start_with?("feed@", "valve_feed@") }
            # Parted at both ends, or measured at the part, the wire hangs on no battery.
            parted = test.state.disconnected.size > 1 && !test.state.disconnected.include?(fed&.id)
            test.state.key == "off" && (!(fed && feed) || parted || text.match?(PART_SIDE))
          end,
        "puts no bulb on a sensor's feed or input, and names the load where it asks for one" =>
          lambda do |circuit, test, text|
            loaded = test.state["bulb"] || test.state["valve_bulb"]
            bulb = text.match?(/(?<!no )\bbulbs?\b(?! check)/i)
            (!SENSOR_FAMILIES.include?(circuit.family) || !bulb) && (!loaded || text.match?(/bulb|resistor/i))
          end,
        "warns where the hand is about to move" =>
          lambda do |circuit, test, text|
            wanted = []
            wanted << "lifting" if test.access.any? { |key, _| key == "wheel_off" }
            wanted << "hot_bulb" if text.match?(/(?<!no )\bbulbs?\b(?! check)/i) && circuit.family != "wheel_speed"
            if circuit.id == "steering_angle" && test.access.any? { |key, _| key.end_with?("sensor_plug") }
              wanted << "airbag"
            end
            wanted << "no_park_brake" if %w[motor_alone cable_by_hand].include?(test.id)
            wanted << "fluid_jet" if %w[look_leaks return_flow].include?(test.id)
            wanted << "helper_aloft" if test.id == "valve_function"
            wanted << "not_knocked" if test.id == "warm_and_knock"
            wanted << "live_cable" if text.match?(/battery negative off/i)
            wanted << "never_bridged" if test.id == "bridge_lamp"
            (wanted - test.cautions).empty?
          end,
        "warns of READY wherever hands are at a wheel or a motor of a hybrid or electric vehicle" =>
          lambda do |_, test, _|
            hands =
              test.access.any? { |key, _| %w[wheel_off drive].include?(key) } || test.cautions.include?("moving_motor")
            told = Gadwall::Diagnosis::Cautions.of_test(test, system.sheet).include?("ready_ev")
            told == (hands && system.sheet.power != "combustion")
          end,
        "lets nobody sit in a lifted vehicle" =>
          lambda do |_, test, text|
            aloft = test.access.any? { |key, _| key == "wheel_off" }
            !aloft || !text.match?(/helper (?:presses|holds|in the|at the pedal)|pedal held by a helper/i)
          end,
        "takes minutes as on a real vehicle" =>
          lambda { |_, test, _| test.minutes.between?(1, 60) && test.access.all? { |_, minutes| minutes >= 0 } }
      }

      rules.each do |title, kept|
        it title do
          broken = tests.reject { |each| kept.call(*each) }
          expect(broken.map { |circuit, test, text| "#{circuit.id}.#{test.id}: #{text}" }).to eq([])
        end
      end
    end
  end
end
