# frozen_string_literal: true

require "spec_helper"

# What is advised as a test hurts nobody and destroys nothing (common practice).
RSpec.describe Gadwall::Diagnosis::NextTests do
  vehicle = {
    "sensors" => "active",
    "stability" => "yes",
    "park_brake" => "caliper_motor",
    "booster" => "electric_pump",
    "fluid_level" => "three",
    "towing" => "trailer"
  }

  def told(vehicle, evidence)
    text = JSON.generate({ "gadwall_case" => 1, "vehicle" => vehicle, "evidence" => evidence })
    kase = Gadwall::CaseFile.parse(text, models: CoreHelp::MODELS)
    Gadwall::Diagnosis.assess(kase.system, kase.log.body)
  end

  scan = ->(*codes) do
    rows = codes.map { |code, type| { "code" => code, "failure_type" => type, "status" => "current" } }
    { "kind" => "scan", "modules" => [{ "name" => "ABS", "answered" => true }], "codes" => rows }
  end
  blown = { "kind" => "reading", "test" => "return_pump.look_joint.fuse_box", "reading" => "blown" }
  insulation = ->(typed) { { "kind" => "reading", "test" => "return_pump.feed_insulation", "reading" => typed } }
  pump = scan.call(%w[C0110 13])

  it "powers nothing behind a blown fuse before ohms to ground" do
    before = told({}, [pump, blown]).next_tests.select { |option| option.circuit.id == "return_pump" }
    expect(before).not_to be_empty
    expect(before.select { |option| option.test.powered? }.map(&:id)).to eq([])
    short = told({}, [pump, blown, insulation.call("0.3")]).next_tests
    expect(short.select { |option| option.circuit.id == "return_pump" && option.test.powered? }.map(&:id)).to eq([])
    sound = told({}, [pump, blown, insulation.call("OL")]).next_tests
    expect(sound.count { |option| option.circuit.id == "return_pump" && option.test.powered? }).to be > 0
  end

  it "reads no live data of a module whose own fuse is blown" do
    look = { "kind" => "reading", "test" => "abs_module.look_joint.fuse_box", "reading" => "blown" }
    evidence = [scan.call(%w[C0031 13]), look]
    advised = told({}, evidence).next_tests.select { |option| option.circuit.module == "abs" }
    expect(advised.select { |option| option.test.powered? }.map(&:id)).to eq([])
  end

  it "erases, calibrates, zeroes and opens nothing while another test would tell" do
    { "C0131" => "54", "C0110" => "13", "C0031" => "62", "C0196" => "54", "C0051" => "54" }.each do |code, type|
      options = told(vehicle, [scan.call([code, type])]).next_tests
      first_last = options.index { |option| option.test.last? } || options.size
      telling = options.each_index.select { |i| !options[i].test.last? && options[i].bits >= described_class::TELLS }
      expect([code, telling.select { |i| i > first_last }]).to eq([code, []])
    end
  end

  describe "the foremost five, over seeded evidence" do
    let(:lists) do
      random = Random.new(27)
      Array.new(12) do
        system = system_with(%w[active passive].sample(random: random), stability: "yes", park_brake: "caliper_motor")
        code = %w[C0031-13 C0034-62 C0037-31 C0110-71 C0267 P0562].sample(random: random)
        modules = %w[ABS Engine Cluster].map { |name| { "name" => name, "answered" => true } }
        seen = scan(code).merge("modules" => modules)
        assess(system, *[seen, { "kind" => "symptoms", "ids" => ["wet"] }].sample(2, random: random)).next_tests
      end
    end

    it "hold one test of each form" do
      forms = Gadwall::Knowledge.catalogue.forms
      lists.each do |list|
        names = list.first(5).reject(&:needed).map { |option| option.test.id.split(".").first }
        told = names.map { |name| forms.fetch(name, name) }
        expect(told).to eq(told.uniq)
      end
    end

    it "hold a look that costs little, where there is one" do
      look = ->(option) { option.test.kind == "table" && option.minutes <= 6 && !option.test.last? }
      with = lists.select { |list| list.any?(&look) }
      expect(with.size).to be > 6
      expect(with).to all(satisfy { |list| list.first(5).any?(&look) })
    end

    it "ask for no network scan after a scan" do
      expect(lists.flatten.map { |option| option.test.id }).not_to include("who_answers")
    end
  end

  it "marks every test whose words erase, calibrate, zero or open a module as a last one" do
    system = told(vehicle, []).system
    tests = system.circuits.flat_map { |circuit| circuit.model.tests.values }
    words = /\A(?:Clear (?:the )?DTCs|Zero |Run the .*calibration|Open the module)|cut open/
    expect(tests.select { |test| test.title.match?(words) && !test.last? }.map(&:title).uniq).to eq([])
    expect(tests.count(&:last?)).to be > 5
  end

  it "offers no unplugging for the lamp's sake where the switch opens when the level is low: it warns unplugged too" do
    { "closes" => true, "opens" => false }.each do |contact, offered|
      circuit = system_with("active", fluid_level: contact).circuit_named("fluid_level")
      expect(circuit.model.tests).to include("unplug_lamp") # what was done before can be read
      expect(circuit.model.offered_tests.any? { |test| test.id == "unplug_lamp" }).to be(offered)
    end
    listed = assess(system_with("active", fluid_level: "opens"), scan("C1C10")).next_tests.map(&:id)
    expect(listed).not_to include("fluid_level.unplug_lamp")
  end

  it "opens no fuse box live, and says what hangs on it" do
    tests = system_with("active").circuit_named("abs_module").model.tests
    expect(tests.fetch("reseat.fuse_box").where).to include("battery negative off before").and include("airbags")
    expect(tests.fetch("reseat.fuse_box").minutes).to be > tests.fetch("reseat.supply_plug").minutes
  end

  it "offers no part on trial whose fitting opens fluid, air or pressure, and no module" do
    system = told(vehicle, []).system
    offered = system.circuits.flat_map { |circuit| circuit.model.offered_tests.map { |test| [circuit, test.id] } }
    on_trial = offered.select { |_, id| id == "trial_part" }.map { |circuit, _| circuit.family }.uniq
    expect(on_trial).to include("wheel_speed")
    expect(on_trial & %w[accumulator pump valves pressure_sensor fluid_level trailer_modulator]).to eq([])
    expect(offered.map(&:last)).not_to include("trial_module")
    known = system.circuits.find { |circuit| circuit.id == "accumulator" }.model
    expect(known.tests).to include("trial_part") # what was done still counts
  end
end

RSpec.describe "The pressure of a trailer's modulator" do
  vehicle = { "booster" => "air", "towing" => "trailer", "sensors" => "active" }
  code = { "code" => "C1A10", "circuit" => "trailer_modulator", "claim" => "implausible", "status" => "current" }
  scan = { "kind" => "scan", "modules" => [{ "name" => "Trailer", "answered" => true }], "codes" => [code] }

  def verdict(vehicle, evidence)
    text = JSON.generate({ "gadwall_case" => 1, "vehicle" => vehicle, "evidence" => evidence })
    kase = Gadwall::CaseFile.parse(text, models: CoreHelp::MODELS)
    Gadwall::Diagnosis.assess(kase.system, kase.log.body).conclusion_at("trailer_modulator/pressure_part")
  end

  def read(test, result)
    { "kind" => "reading", "test" => "trailer_modulator.#{test}", "reading" => result }
  end

  # Hose, chamber, relay valve, filter and a low supply lag like a modulator (common practice).
  it "proves nothing by one look and one code" do
    one_look = verdict(vehicle, [scan, read("pressure_steps", "lags")])
    expect([one_look.state, one_look.missing.map(&:need)]).to match(["open", include("supply", "plug")])
  end

  it "is proven with its supply under load, air at port 1, what hangs behind it, and the ports blanked" do
    evidence = [
      scan,
      read("pressure_steps", "lags"),
      read("loaded_supply", "24.6"),
      read("loaded_valves", "24.4"),
      read("port_supply", "good"),
      read("leaks_behind", "good"),
      read("ports_blanked", "lags")
    ]
    expect(verdict(vehicle, evidence).state).to eq("proven")
  end
end
