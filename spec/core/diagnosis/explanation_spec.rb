# frozen_string_literal: true

# What the diagnosis says for itself: chain of evidence, what is missing, cautions, and how far it is to a verdict.
RSpec.describe Gadwall::Diagnosis::Assessment do
  let(:passive) { system_with("passive") }
  let(:start) { [scan("C0031-13"), { "kind" => "symptoms", "ids" => ["at_key_on"] }] }
  let(:wire) do
    [
      *start,
      reading("front_left.resistance.body_connector", "OL"),
      reading("front_left.resistance.sensor_plug", "1.1k"),
      reading("front_left.bias.sensor_plug", "0.2")
    ]
  end

  it "tells the chain of evidence in sentences, strongest first, with the code and the rule" do
    why = assess(passive, *wire).verdict.why
    order = %w[strong moderate weak]
    said = why.filter_map { |sentence| sentence[/\((\w+) support for\)/, 1] }
    expect(said.map { |word| order.index(word) }).to eq(said.map { |word| order.index(word) }.sort)
    expect(said.first).to eq("strong")
    expect(why).to include("DTC C0031-13 is set for this circuit.")
    expect(why.last).to include("Readings on both sides")
  end

  it "counts what speaks against the leader as well" do
    rows = assess(passive, *wire, finding("front_left.look_section.body_connector_to_sensor_plug", "good")).weights
    expect(rows.last.bits).to be < 0
    expect(rows.map { |row| row.observation.seq }).to eq(rows.map { |row| row.observation.seq }.sort)
  end

  it "draws nearer to a verdict with each telling reading" do
    minutes = [2, 3, 4, 5].map { |count| assess(passive, *wire.first(count)).minutes_to_verdict }
    expect(minutes.last).to eq(0)
    expect(minutes.first).to be > minutes[2]
  end

  it "lists what is missing as tests with a reason" do
    missing = assess(passive, *start, reading("front_left.resistance.sensor_plug", "OL")).verdict.missing
    expect(missing.map(&:text)).to include("Wiring between module and sensor proven")
    expect(missing.flat_map(&:tests)).to all(satisfy { |id| passive.test(id) })
    expect(missing.map(&:reason)).to include(/Test the wiring from the module end/)
  end

  it "marks places sound, suspect or unknown as readings cover them" do
    assessment = assess(passive, *wire)
    standings =
      passive.circuits.first.harness.places.to_h { |place| [place, assessment.place_state("front_left", place)] }
    expect(standings).to include("sensor" => "ok", "body_connector_to_sensor_plug" => "suspect", "ring" => "unknown")
  end

  it "warns of what the next hand movement and the vehicle call for" do
    rules = ->(system, *entries) { assess(system, *entries).cautions.map { |caution| caution[:rule] } }
    expect(rules.call(system_with("passive", power: "electric", booster: "electric_pump"), *start)).to include(
      "high_voltage",
      "accumulator"
    )
    expect(rules.call(passive, *start)).not_to include("high_voltage")
    expect(rules.call(passive, scan("C0031-62"))).to include("road").or include("lifting")
  end

  it "is frozen, and the same twice" do
    twice = Array.new(2) { assess(passive, *wire) }
    expect(twice).to all(be_frozen)
    expect(twice.map { |assessment| Gadwall::CaseFile::AssessmentJSON.of(assessment) }.uniq.size).to eq(1)
  end

  it "calls a repeated look half as telling as the model would" do
    once = assess(passive, *start, finding("front_left.look_ring", "good"))
    planner = Gadwall::Diagnosis::NextTests.new(once.posterior, once.body)
    option = once.next_tests.find { |each| each.id == "front_left.look_ring" }
    circuit, test = passive.test("front_left.look_ring")
    expect(option&.bits || 0).to be <= planner.bits(circuit, test)
  end
end

RSpec.describe Gadwall::Evaluation::OwnCircuits::SimulatedVehicle do
  let(:system) { system_with("passive") }

  def shown(truth, test, seed: 3, **more)
    vehicle = described_class.new(system, truth: truth, random: Random.new(seed), **more)
    vehicle.perform(*system.test(test))
  end

  it "shows what the circuit with the fault in it would show, and nothing elsewhere" do
    broken = shown("front_left.sensor.open", "front_left.resistance.sensor_plug", severity: 200_000_000)
    expect(broken).to be_over_limit
    expect(shown("front_left.sensor.open", "front_right.resistance.sensor_plug").value).to be_within(150).of(1100)
    expect(
      shown("front_left.module_input.dead", "front_left.bias.module_plug", severity: "bias_lost").value
    ).to be_within(0.05).of(0)
  end

  it "is the same for the same seed, and comes and goes when told to" do
    twice = Array.new(2) { shown("front_left.sensor.open", "front_left.live_spin", seed: 9) }
    expect(twice.uniq.size).to eq(1)
    vehicle =
      described_class.new(
        system,
        truth: "front_left.body_connector.signal.high_resistance",
        random: Random.new(1),
        severity: 1e7,
        presence: 0.3
      )
    readings = Array.new(60) { vehicle.perform(*system.test("front_left.resistance.module_plug")).value > 1e6 }
    expect(readings.count(true)).to be_between(8, 30)
  end
end

RSpec.describe Gadwall::Quantity::Meter do
  it "shows what its display can, and gives up at its limit" do
    ohm = catalogue.meter("ohm")
    expect([0.04, 0.26, 1234.4, 61e6].map { |value| ohm.shown(value).round(6) }).to eq(
      [0.0, 0.3, 1234.0, Float::INFINITY]
    )
    expect(catalogue.meter("V").shown(12.596)).to be_within(1e-9).of(12.6)
    expect(ohm.sigma(1000)).to be_within(1e-9).of(ohm.error_band(1000) / 2)
  end
end
