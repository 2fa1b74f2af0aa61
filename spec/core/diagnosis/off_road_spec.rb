# frozen_string_literal: true

require "spec_helper"

# What must not be driven: brake lights that fail under the foot, fluid under its mark, a red lamp, a park brake that
# does not hold (common practice; UN R13-H 5.2.21, UN R48, FMVSS 135 S5.5 and S7.12, from memory).
RSpec.describe Gadwall::Diagnosis::OffRoad do
  vehicle = { "sensors" => "active", "park_brake" => "caliper_motor", "brake_switch" => "one", "stability" => "yes" }

  def told(vehicle, evidence)
    kase =
      Gadwall::CaseFile.parse(
        JSON.generate({ "gadwall_case" => 1, "vehicle" => vehicle, "evidence" => evidence }),
        models: CoreHelp::MODELS
      )
    Gadwall::Diagnosis.assess(kase.system, kase.log.body)
  end

  scan = ->(code) { { "kind" => "scan", "modules" => [{ "name" => "ABS", "answered" => true }], "codes" => [code] } }
  lamp = ->(id) { { "kind" => "lamps", "lit" => [{ "lamp" => id, "when" => "at_key_on" }], "out" => [] } }
  {
    "the red lamp" => [[lamp.call("red_brake")], "red_lamp"],
    "fluid under its mark" => [[lamp.call("level_low")], "low_fluid"],
    "brake lights told dark" => [
      [{ "kind" => "symptoms", "ids" => ["brake_lights_dark"], "words" => "" }],
      "dark_brake_lights"
    ],
    "brake lights seen dark" => [
      [{ "kind" => "reading", "test" => "brake_switch.rear_lamps", "reading" => "dark" }],
      "dark_brake_lights"
    ],
    "brake lights told always on" => [
      [{ "kind" => "symptoms", "ids" => ["brake_lights_always"], "words" => "" }],
      "brake_lights_on"
    ],
    "brake lights seen on with the pedal released" => [
      [{ "kind" => "reading", "test" => "brake_switch.lamps_released", "reading" => "lit" }],
      "brake_lights_on"
    ],
    "fluid seen low" => [
      [{ "kind" => "reading", "test" => "fluid_level.look_level", "reading" => "low" }],
      "low_fluid"
    ],
    "a park brake that does not clamp" => [
      [{ "kind" => "symptoms", "ids" => ["motor_heard"], "words" => "" }],
      "park_brake_fails"
    ],
    "a soft pedal, as ticked at check-in" => [
      [{ "kind" => "symptoms", "ids" => [], "words" => "", "triage" => ["soft_pedal"] }],
      "soft_pedal"
    ]
  }.each do |title, (evidence, reason)|
    it "keeps off the road: #{title}" do
      assessment = told(vehicle, evidence)
      expect(assessment.off_road).to include(reason)
      expect(assessment.cautions.map { |caution| caution[:rule] }).to include(reason)
      expect(assessment.next_tests.select { |option| option.test.drives? }.map(&:id)).to eq([])
    end
  end

  it "names results that there are" do
    system = told(vehicle.merge("fluid_level" => "closes"), []).system
    there =
      system.circuits.flat_map do |circuit|
        circuit.model.tests.values.flat_map do |test|
          (test.outcomes || {}).keys.map { |result| "#{circuit.family}/#{test.id}.#{result}" }
        end
      end
    expect(catalogue.off_road.flat_map { |row| row["seen"] || [] } - there).to eq([])
  end

  it "lets go of what was seen once it is seen otherwise" do
    seen = ->(result) { { "kind" => "reading", "test" => "brake_switch.lamps_released", "reading" => result } }
    adjusted = { "kind" => "reading", "test" => "fluid_level.look_level", "reading" => "good" }
    expect(told(vehicle, [seen.call("lit"), adjusted]).off_road).to include("brake_lights_on")
    expect(told(vehicle, [seen.call("lit"), seen.call("good"), seen.call("good")]).off_road).to eq([])
  end

  it "says nothing of a wheel sensor, and lets the vehicle be driven for it" do
    assessment = told(vehicle, [scan.call({ "code" => "C0031", "failure_type" => "62", "status" => "current" })])
    expect(assessment.off_road).to eq([])
    options = assessment.system.circuits.flat_map { |circuit| circuit.model.tests.values }
    expect(options.count(&:drives?)).to be > 0
  end

  it "has a caution and words for each reason" do
    reasons = catalogue.off_road.map { |row| row["triage"] }.uniq
    expect(reasons - catalogue.cautions.keys).to eq([])
    expect(reasons - Gadwall::Decision::Triage::WORDS.keys).to eq([])
  end

  it "asks for no test that tells to drive without saying that it does" do
    wrong =
      told(vehicle, []).system.circuits.flat_map do |circuit|
        circuit
          .model
          .tests
          .values
          .reject(&:drives?)
          .select { |test| test.where.to_s.match?(/(?:then|,|\.|and) drive (?:at|slowly|and)|\bDrive (?:at|slowly)/) }
      end
    expect(wrong.map(&:id)).to eq([])
  end
end
