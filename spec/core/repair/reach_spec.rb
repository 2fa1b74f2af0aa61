# frozen_string_literal: true

# Where a place usually is, said with the step that works there (data/repairs/reach.yml; common practice).
RSpec.describe Gadwall::Repair::Reach do
  vehicles = {
    "a car" => {
    },
    "a lorry with its trailer" => {
      "stability" => "yes",
      "towing" => "trailer",
      "booster" => "air"
    },
    "a car with all it can have" => {
      "stability" => "yes",
      "towing" => "trailer_brake_module",
      "booster" => "electric_pump",
      "park_brake" => "caliper_motor",
      "single_wire" => "yes",
      "pad_wear_front" => "two",
      "pad_wear_rear" => "unit",
      "fluid_level" => "three"
    },
    "a cable-pull park brake" => {
      "park_brake" => "cable_puller",
      "layout" => "three_sensors",
      "brake_switch" => "signal"
    }
  }
  built = ->(answers) do
    Gadwall::Vehicle::System.build(Gadwall::Vehicle::Sheet.new({ "name" => "Kestrel" }.merge(answers)))
  end
  said = ->(answers, circuit, place) do
    system = built[answers]
    described_class.to(system.circuit_named(circuit), place, system)
  end

  vehicles.each do |name, answers|
    it "tells every place of #{name}" do
      system = built[answers]
      untold =
        system.circuits.flat_map do |circuit|
          places = circuit.model.faults.map(&:place).uniq
          places.reject { |place| described_class.to(circuit, place, system) }.map { |place| "#{circuit.id}/#{place}" }
        end
      expect(untold).to eq([])
    end
  end

  # common practice: what a technician would tell an apprentice
  [
    [{ "ring_front" => "bearing_seal" }, "front_left", "ring", /inner seal of the wheel bearing/],
    [{ "ring_front" => "hub" }, "front_left", "ring", /On the hub/],
    [{}, "front_right", "body_connector", /wheel arch liner/],
    [{}, "rear_right", "body_connector", /rear seat/],
    [{ "unit_place" => "under_inverter" }, "front_left", "module_plug", /high voltage isolated/],
    [{ "booster" => "electric_pump" }, "accumulator_pump", "fuse_box", /fuse box/],
    [{ "booster" => "electric_pump" }, "accumulator_pump", "pump", /pressure out and pump disabled/],
    [{ "towing" => "trailer", "booster" => "air" }, "trailer_left", "module_plug", /trailer's modulator/]
  ].each do |answers, circuit, place, words|
    it "sends the hand to #{circuit}, #{place} (#{answers})" do
      expect(said[answers, circuit, place]).to match(words)
    end
  end

  it "tells a run of wire by its two ends" do
    text = said[{}, "front_left", "body_connector_to_sensor_plug"]
    expect(text).to match(/body connector: .*arch liner.* sensor connector: .*knuckle/)
  end
end
