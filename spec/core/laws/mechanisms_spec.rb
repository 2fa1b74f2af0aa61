# frozen_string_literal: true

require "spec_helper"

# What follows from how things fail, whatever the case (all common practice).
RSpec.describe "Mechanisms of the diagnosis" do
  def bus
    system_with("active").circuit_named("chassis_bus")
  end

  def scan_of(*lines, answered: true)
    scan(*lines.map { |line| Gadwall::TroubleCodes::CodeReader.row_of(line) }, answered: answered)
  end

  def shown(circuit, test, fault)
    model = circuit.model
    table = model.table(model.tests.fetch(test), {})
    model.atoms.each_index.select { |i| model.atoms[i].fault.id == fault }.map { |i| [table, i] }
  end

  describe "a contact that is rotten" do
    let(:kilo_ohms) do
      [["6.4k", nil], %w[1.9M wiggled], %w[22k wiggled]].map do |text, condition|
        reading("front_left.resistance.module_plug", text).merge({ "condition" => condition }.compact)
      end
    end

    it "is one fault that reads something else each time, no contradiction" do
      system = system_with("passive")
      good = [
        reading("front_left.resistance.sensor_plug", "1.12k"),
        reading("front_left.continuity.signal.module_plug-body_connector", "0.2"),
        reading("front_left.continuity.return.module_plug-body_connector", "0.3"),
        reading("front_left.continuity.return.body_connector-sensor_plug", "4.7k"),
        reading("front_left.continuity.return.body_connector-sensor_plug", "1.2M")
      ]
      assessment = assess(system, *kilo_ohms, *good)
      expect(assessment.posterior.places.keys.first).to eq("front_left/body_connector_to_sensor_plug")
      expect(assessment.verdict.tests_in_doubt).to be_empty
    end

    it "keeps the chances of all readings those of a distribution: shares at one place sum to 1" do
      %w[active passive].each do |kind|
        system_with(kind).circuits.each do |circuit|
          circuit.model.rotten.each do |atoms, shares|
            expect([atoms.size, shares.sum]).to match([be > 1, be_within(1e-9).of(1)])
          end
        end
      end
    end
  end

  describe "a fault that comes and goes, and is away just now" do
    let(:system) { system_with("active") }
    let(:complaint) do
      [
        { "kind" => "symptoms", "ids" => ["comes_and_goes"] },
        { "kind" => "presence", "fault" => "absent" },
        scan_of("ABS control module supply voltage low, history"),
        reading("abs_module.battery_volts", "12.5")
      ]
    end

    def supply_path(*readings)
      places = assess(system, *complaint, *readings).posterior.places
      places.sum { |place, p| place.match?(%r{\Aabs_module/(fuse_box|supply_plug|ground_point)}) ? p : 0.0 }
    end

    it "is betrayed by what it leaves under load, and a good drop speaks against its contacts" do
      plain = supply_path
      expect(supply_path(reading("abs_module.loaded_supply", "11.0"))).to be > plain
      expect(supply_path(reading("abs_module.loaded_supply", "12.5"))).to be < plain
    end

    it "leaves only what is less bad than itself, in the same spot" do
      system.circuits.each do |circuit|
        atoms = circuit.model.atoms
        circuit
          .model
          .lesser
          .each_with_index
          .select(&:first)
          .each do |(less, shares), i|
            expect(shares.sum).to be_within(1e-9).of(1)
            spots = [i, *less].map { |j| [atoms[j].fault.place, atoms[j].fault.target] }
            expect(spots.uniq.size).to eq(1)
            worse = atoms[i].fault.effect == "series" ? :< : :>
            next unless %w[series to_ground between].include?(atoms[i].fault.effect)

            expect(less.map { |j| atoms[j].severity }).to all(be.public_send(worse, atoms[i].severity))
          end
      end
    end
  end

  describe "wires of two circuits that touch" do
    # A harness that leaves one connector with the pairs of both rear wheels.
    let(:system) do
      line = {
        "joints" => [
          { "id" => "module_plug", "name" => "module connector", "minutes" => 4, "with" => "module_plug" },
          { "id" => "floor", "name" => "floor connector", "minutes" => 4, "with" => "rear_floor" },
          { "id" => "sensor_plug", "name" => "sensor connector", "minutes" => 1, "needs" => "wheel_off" }
        ],
        "sections" => [
          { "length_m" => 2.5, "cross_section_mm2" => 0.5 },
          { "length_m" => 1.5, "cross_section_mm2" => 0.5, "needs" => "wheel_off" }
        ]
      }
      pins = { "pins" => { "feed" => "1", "return" => "2" } }
      line["joints"].each { |joint| joint.merge!(pins) }
      system_with("active", circuits: { "rear_left" => line, "rear_right" => line })
    end
    let(:mixed) do
      [
        scan_of("C0037-62 current", "C003A-62 current"),
        finding("rear_left.scope", "uneven"),
        finding("rear_right.scope", "uneven")
      ]
    end

    it "mix both signals, whatever feed and insulation say, and are one place" do
      good =
        %w[rear_left rear_right].flat_map do |wheel|
          [
            reading("#{wheel}.feed_volts.sensor_plug", "11.8"),
            reading("#{wheel}.insulation.return.module_plug", "OL"),
            finding("#{wheel}.look_section.floor_to_sensor_plug", "cut")
          ]
        end
      places = assess(system, *mixed, *good).posterior.places
      expect(places.keys.first).to eq("shared/run_beyond_rear_floor")
    end

    it "are no thought where one wheel alone is ragged" do
      one = [scan_of("C0037-62 current"), mixed[1], finding("rear_right.scope", "even")]
      places = assess(system, *one).posterior.places
      expect(places.fetch("shared/run_beyond_rear_floor", 0.0)).to be < 0.05
    end
  end

  describe "a bus that cannot speak" do
    # ISO 11898-2: recessive lines follow their terminators: what holds one holds both.
    it "lies at its levels of rest: CAN-H to ground takes CAN-L with it" do
      circuit = bus
      fault = circuit.model.faults.find { |each| each.id.start_with?("wire_can_h.") && each.mode == "short_to_ground" }
      test = circuit.model.tests.fetch("level_l.abs_plug")
      low = Gadwall::Observations::Result.of(test, "0.1")
      sound = circuit.model.table(test, {}).normal_density(low)
      hard = shown(circuit, "level_l.abs_plug", fault.id).map { |table, i| table.densities(low).present[i] }
      expect(hard.max).to be > 1e6 * [sound, 1e-12].max
    end

    it "is pulled down by one line of a module as by a wire, and speaks again without that module" do
      circuit = bus
      mode = "abs.can_h.pulls_to_ground"
      gone = shown(circuit, "unplug_module.abs", mode).map { |table, i| table.densities("good").present[i] }
      stays = shown(circuit, "unplug_module.gateway", mode).map { |table, i| table.densities("dead").present[i] }
      expect(gone.min).to be > 0.9
      expect(stays.max).to be > 0.9
    end
  end

  it "counts an encoder and the bearing that carries it as one part" do
    seen = [
      { "kind" => "symptoms", "ids" => ["brake_job"] },
      scan_of("C0037-31 current"),
      finding("rear_right.live_speed", "none"),
      reading("rear_right.feed_volts.sensor_plug", "11.9"),
      reading("rear_right.current.sensor_plug", "7.0mA"),
      finding("rear_right.scope", "none"),
      finding("rear_right.encoder_film", "none")
    ]
    apart, joined = %w[hub bearing_seal].map { |ring| assess(system_with("active", ring_rear: ring), *seen) }
    line = joined.verdict.conclusions.first
    expect(line.suspect.place).to match(%r{\Arear_right/(?:bearing|ring)\z})
    of_both = joined.posterior.places.values_at("rear_right/bearing", "rear_right/ring").sum
    expect(line.probability).to be_within(1e-4).of(of_both)
    expect(apart.verdict.conclusions.first.probability).to be < 0.95
  end

  it "suspects a unit that is fed, grounded and heard by nobody, not its good connector" do
    system = system_with("active", park_brake: "cable_puller")
    places =
      assess(
        system,
        { "kind" => "symptoms", "ids" => ["wet"] },
        scan_of("U0128-87 current lost communication with park brake module", answered: true),
        reading("park_brake_unit.loaded_supply", "12.2"),
        reading("park_brake_unit.ground_drop", "0.06"),
        finding("park_brake_unit.look_joint.unit_plug", "good"),
        finding("park_brake_unit.look_unit", "wet")
      ).posterior.places
    expect([places.keys.first, places.values.first]).to match(["park_brake_unit/unit", be > 0.95])
  end

  it "calls nothing likely that only base rates set apart from the rest of its circuit" do
    system = system_with("active", stability: "yes")
    seen = [
      scan_of("C0044-62 current brake pressure sensor rationality"),
      finding("brake_pressure.live_rest", "offset")
    ]
    line = assess(system, *seen).verdict.conclusions.first
    expect([line.suspect.circuit.id, line.state]).to eq(%w[brake_pressure open])
  end

  it "calls nothing wrong only once something was measured" do
    system = system_with("active", stability: "yes")
    seen = [
      { "kind" => "symptoms", "ids" => ["battery_work"] },
      { "kind" => "lamps", "lit" => [], "out" => %w[abs esc red_brake] },
      { "kind" => "presence", "fault" => "absent" },
      scan_of("supply voltage low history")
    ]
    open, measured =
      [[], [reading("abs_module.loaded_supply", "12.3"), reading("abs_module.ground_drop", "0.04")]].map do |more|
        assess(system, *seen, *more).verdict.conclusions.first
      end
    expect([open.suspect.none?, open.state]).to eq([true, "open"])
    expect([measured.suspect.none?, measured.state]).to match([true, /likely|proven/])
  end

  it "takes a vehicle without code, lamp or complaint for sound sooner than one that somebody felt something in" do
    nothing, felt, lit =
      [
        [],
        [{ "kind" => "symptoms", "ids" => ["pedal_shudder"] }],
        [{ "kind" => "lamps", "lit" => [{ "lamp" => "abs" }], "out" => [] }]
      ].map { |more| assess(system_with("active"), *more, scan_of(answered: true)).posterior.none }
    expect([nothing, felt, lit]).to eq([nothing, felt, lit].sort.reverse)
    expect(nothing).to be > 2 * lit
  end

  # A true reading of 5 V where 12 V was expected was doubted, since nobody had said that it shows the pull-up.
  it "lets no figure move with a value that no sheet states, but those that are said to show or to feel it" do
    sheets = [
      { pad_wear_front: "one", fluid_level: "opens" },
      { pad_wear_front: "two", brake_switch: "two", single_wire: "yes" },
      { booster: "electric_pump", park_brake: "cable_puller", brake_switch: "signal", stability: "yes" },
      { park_brake: "caliper_motor", towing: "trailer_brake_module", pad_wear_front: "unit", brake_switch: "one" }
    ]
    circuits = %w[active passive].product(sheets).flat_map { |kind, sheet| system_with(kind, **sheet).circuits }
    unsaid = circuits.uniq { |circuit| circuit.harness.id }.flat_map { |circuit| unsaid_in(circuit) }
    expect(unsaid).to be_empty
  end

  # Figures of a sound circuit that move by more than their scatter from one end of an unknown value to the other.
  def unsaid_in(circuit)
    circuit.model.unknowns.flat_map do |unknown|
      ends = [0, unknown.points.size - 1].map { |k| unknown.put_into(circuit.harness, k) }
      predictors = ends.map { |harness| Gadwall::Tests::Predictor.new(harness, catalogue) }
      quiet =
        circuit.model.tests.values.select do |test|
          test.numeric? && !unknown.shown_by?(test) && !unknown.felt_by?(test)
        end
      quiet.select { |test| moves?(test, predictors) }.map { |test| "#{circuit.harness.id} #{unknown.id} #{test.id}" }
    end
  end

  def moves?(test, predictors)
    one, other = predictors.map { |each| each.predict(test, Gadwall::Circuits::Condition::SOUND).humps.first }
    (one[0] - other[0]).abs > 4 * [one[1], other[1]].max
  end
end
