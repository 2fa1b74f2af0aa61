# frozen_string_literal: true

require "spec_helper"

# What stands between a likely fault and a proven one: every need that the data name is known, and can be met by tests
# that there are.
RSpec.describe Gadwall::Diagnosis::Needs do
  gates = Gadwall::Knowledge.catalogue.gates
  vehicle = {
    "sensors" => "active",
    "stability" => "yes",
    "park_brake" => "caliper_motor",
    "booster" => "electric_pump",
    "towing" => "trailer"
  }
  scan = ->(*codes) do
    rows = codes.map { |code, type| { "code" => code, "failure_type" => type, "status" => "current" } }
    { "kind" => "scan", "modules" => [{ "name" => "ABS", "answered" => true }], "codes" => rows }
  end
  told = [scan.call(%w[C0031 13]), scan.call(%w[C0110 13]), scan.call(%w[U0121 00]), scan.call]

  def assessed(vehicle, *entries)
    text = JSON.generate({ "gadwall_case" => 1, "vehicle" => vehicle, "evidence" => entries })
    kase = Gadwall::CaseFile.parse(text, models: CoreHelp::MODELS)
    Gadwall::Diagnosis.assess(kase.system, kase.log.body)
  end

  it "are those of the gates, and each is asked for by one" do
    expect(gates.values.flat_map { |gate| gate["needs"] }.uniq + ["direct"]).to match_array(described_class::BY_ID.keys)
  end

  it "say what is asked in words of their own" do
    texts = described_class::BY_ID.values.map { |need| need::TEXT }
    expect(texts.uniq).to eq(texts)
  end

  told.each do |entry|
    codes = entry["codes"].map { |code| code["code"] }.join(", ")
    it "ask for tests of this vehicle that nobody did yet, at every place (#{codes.empty? ? "no code" : codes})" do
      assessment = assessed(vehicle, entry)
      asked =
        assessment
          .posterior
          .places
          .keys
          .first(60)
          .filter_map { |place| assessment.conclusion_at(place) }
          .flat_map(&:missing)
      expect(asked).not_to be_empty
      asked.flat_map(&:tests).uniq.each { |id| expect(assessment.system.test(id).last.id).to eq(id.split(".", 2).last) }
    end
  end

  it "are met by what they ask for: a sensor at its own pins, its wiring and its tone ring" do
    ohms = ->(test, reading) { { "kind" => "reading", "test" => "front_left.#{test}", "reading" => reading } }
    passive = { "sensors" => "passive" }
    needs = ->(*more) do
      conclusion = assessed(passive, scan.call(%w[C0031 13]), *more).conclusion_at("front_left/sensor")
      conclusion.missing.map(&:need)
    end
    expect(needs.call).to include("wiring", "own_pins", "direct")
    open_sensor = ohms.call("resistance.sensor_plug", "OL")
    expect(needs.call(open_sensor)).not_to include("own_pins", "direct")
    expect(needs.call(open_sensor)).to include("wiring")
  end
end
