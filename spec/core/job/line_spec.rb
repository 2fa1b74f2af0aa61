# frozen_string_literal: true

# Circuits as data: templates, what the vehicle sheet changes, faults and tests that follow from them.
RSpec.describe Gadwall::Circuits::Harness do
  let(:template) { catalogue.circuits["wheel_speed_passive"] }
  let(:four) do
    {
      "joints" => [
        { "id" => "ecu", "name" => "module plug", "minutes" => 3, "pins" => { "signal" => "A1", "return" => "A2" } },
        { "id" => "floor", "minutes" => 9 },
        { "id" => "arch", "exposed" => true },
        { "id" => "knuckle", "needs" => "wheel_off" }
      ],
      "sections" => [
        { "length_m" => 3, "cross_section_mm2" => 0.75 },
        { "length_m" => 1.5, "cross_section_mm2" => 0.5 },
        { "length_m" => 0.6, "cross_section_mm2" => 0.5, "flexes" => true }
      ],
      "wires" => {
        "signal" => {
          "colour" => "green"
        }
      },
      "values" => {
        "coil_ohm" => {
          "value" => 1500,
          "tolerance" => 0.02
        }
      }
    }
  end
  let(:line) { described_class.new(template, four, catalogue) }
  let(:model) { Gadwall::Tests::CircuitModel.new(line, catalogue) }

  it "takes connectors, sections, colours and values from the vehicle sheet" do
    expect(line.places).to eq(
      %w[module_input ecu ecu_to_floor floor floor_to_arch arch arch_to_knuckle knuckle sensor ring bearing tyre]
    )
    expect(line.wire("signal").colour).to eq("green")
    expect(line.wire("return").colour).to eq("brown")
    expect(line.sections.first.ohm).to be_within(1e-9).of(3 * 0.0247)
    expect(line.tolerance("coil_ohm")).to eq(0.02)
  end

  it "gives right predictions for the changed wiring at once" do
    state = described_class::State.of(disconnected: ["ecu"])
    ohms =
      Gadwall::Circuits::Reader.new(line, state).read(
        "ohms",
        %w[signal@ecu.far return@ecu.far],
        Gadwall::Circuits::Condition::SOUND
      )
    expect(ohms).to be_within(0.01).of(1500 + (2 * (line.sections.sum(&:ohm) + 0.03)))
  end

  it "spreads tests over its connectors, with its own pins, and leaves no gap in the text" do
    expect(model.tests.keys).to include(
      "resistance.floor",
      "continuity.return.arch-knuckle",
      "wiggle_section.floor_to_arch"
    )
    expect(model.tests["resistance.ecu"].where).to include("pins A1 and A2")
    texts = model.tests.values.flat_map { |test| [test.title, test.where, test.id] }
    expect(texts.grep(/[{}]/)).to be_empty
    expect(model.tests["resistance.knuckle"].access).to include(["wheel_off", 5])
  end

  it "spreads faults over its places, exposed connectors and moving leads failing more often" do
    rate = ->(id) { model.fault(id).rate }
    expect(rate.call("arch.signal.high_resistance")).to be > rate.call("floor.signal.high_resistance")
    expect(rate.call("wire_signal.arch_to_knuckle.open")).to be > rate.call("wire_signal.ecu_to_floor.open")
    expect(model.faults.map(&:id).uniq.size).to eq(model.faults.size)
    expect(model.faults.map(&:source)).to all(match(Gadwall::Knowledge::Records::SOURCE))
  end

  it "gives every fault severities that sum to one, and every fault a test that can tell it" do
    model = system_with("passive").circuits.first.model
    model.faults.each_with_index do |fault, index|
      expect(fault.severities.sum(&:last)).to be_within(1e-9).of(1)
      expect(model.tests.values.any? { |test| model.table(test).touches?(index) }).to be(true), fault.id
    end
  end

  it "cuts every number test into outcomes whose chances sum to one, one of them as it should be" do
    model = system_with("passive").circuits.first.model
    model
      .tests
      .values
      .select(&:numeric?)
      .each do |test|
        table = model.table(test)
        expect(table.rows).to all(satisfy { |row| (row.sum - 1).abs < 1e-6 })
        good = (0...table.outcome_count).select { |index| table.good?(index) }
        expect(good).not_to be_empty, test.id
        expect(good.sum { |index| table.rows[0][index] }).to be > 0.95
        expect((0...table.outcome_count).map { |index| table.outcome_label(index) }.uniq.size).to eq(
          table.outcome_count
        ),
        test.id
      end
  end

  it "keeps the codes of a sound line to itself, and cleared ones stay away" do
    full = system_with("passive", park_brake: "caliper_motor", stability: "yes", booster: "air", towing: "trailer")
    full.circuits.each do |circuit|
      sound = circuit.model.monitors.of_condition(Gadwall::Circuits::Condition::SOUND)
      expect(sound.values).to all(be_zero), "#{circuit.id}: #{sound}"
      cleared = circuit.model.test("clear_codes") or next
      table = circuit.model.table(cleared)
      expect(table.rows[0][table.outcome_index("good")]).to be > 0.9, circuit.id
    end
  end

  {
    "wire_signal.module_plug_to_body_connector.open" => "open",
    "sensor.open" => "open",
    "ring.missing" => "no_signal",
    "ring.sprung" => "implausible",
    "wire_signal.module_plug_to_body_connector.short_to_supply" => "short_to_supply",
    "wire_signal.module_plug_to_body_connector.short_to_ground" => "short_to_ground",
    "module_plug_to_body_connector.short_together" => "short"
  }.each do |fault, claim|
    it "lets the module claim #{claim} for #{fault}" do
      model = system_with("passive").circuits.first.model
      rows =
        model.atoms.each_index.select { |i| model.atoms[i].fault.id == fault }.map { |i| model.monitors.of_atom(i) }
      expect(rows.map { |row| row[claim] }.max).to be > 0.5
    end
  end

  it "refuses a sheet that does not fit, naming the field" do
    expect_refusal(/sections: '2' is not valid\. Expected 3 sections for 4 connectors/) do
      described_class.new(template, four.merge("sections" => four["sections"].first(2)), catalogue)
    end
    expect_refusal(/cross_section_mm2: '0.6'/, error: Gadwall::UnknownNameError) do
      described_class.new(template, { "sections" => [{ "length_m" => 1, "cross_section_mm2" => 0.6 }] * 2 }, catalogue)
    end
    expect_refusal(/values: 'coil'/, error: Gadwall::UnknownNameError) do
      described_class.new(template, { "values" => { "coil" => 3 } }, catalogue)
    end
    expect_refusal(/connector: 'roof'/, error: Gadwall::UnknownNameError) { line.connector("roof") }
  end
end

RSpec.describe Gadwall::Vehicle::System do
  RSpec::Matchers.define_negated_matcher :not_include, :include

  it "has a circuit for each sensor of the layout, and what else every such vehicle has" do
    usual = %w[abs_module return_pump valves fluid_level brake_switch chassis_bus]
    expect(system_with("active").circuits.map(&:id)).to eq(%w[front_left front_right rear_left rear_right] + usual)
    expect(system_with("active", layout: "three_sensors").circuits.map(&:id)).to eq(
      %w[front_left front_right rear_axle] + usual
    )
    expect(
      system_with({ "front" => "passive", "rear" => "active" })
        .circuits
        .map { |circuit| circuit.harness.id }
        .uniq
        .first(3)
    ).to eq(%w[wheel_speed_passive wheel_speed_active module_supply])
  end

  it "has the circuits that the answers of the sheet ask for, and no others" do
    bare = system_with("active", pump: "none", fluid_level: "none", brake_switch: "none", bus: "none")
    expect(bare.circuits.map(&:id)).to eq(%w[front_left front_right rear_left rear_right abs_module])
    puller =
      system_with("active", park_brake: "cable_puller", stability: true, booster: "electric_pump", towing: "trailer")
    expect(puller.circuits.map(&:id)).to include(
      "park_brake_unit",
      "steering_angle",
      "accumulator_pump",
      "trailer_modulator",
      "trailer_left"
    ).and not_include("park_brake_left", "body_bus")
  end

  it "shares what was computed between circuits that are wired alike" do
    circuits = system_with("passive").circuits
    expect(circuits[0].model).to equal(circuits[3].model)
    other = system_with("passive", circuits: { "front_left" => { "values" => { "coil_ohm" => 900 } } }).circuits
    expect(other[0].model).not_to equal(other[1].model)
  end

  it "finds tests and faults by full name, and suggests the nearest for a wrong one" do
    system = system_with("passive")
    expect(system.test("rear_left.scope.module_plug").last.id).to eq("scope.module_plug")
    expect { system.fault("rear_left.sensor.opne") }.to raise_error(
      Gadwall::UnknownNameError,
      /rear_left\.sensor\.open/
    )
    expect(system.fault_ids).to all(satisfy { |id| system.fault(id).last })
  end

  it "refuses circuits, layouts and sides that no vehicle has" do
    expect_refusal(/vehicle\.layout/) { system_with("passive", layout: "six") }
    expect_refusal(/vehicle\.driver_side: 'middle'/) { system_with("passive", driver_side: "middle") }
    expect_refusal(/vehicle\.circuits/, error: Gadwall::UnknownNameError) do
      system_with("passive", circuits: { "spare_wheel" => {} })
    end
  end
end
