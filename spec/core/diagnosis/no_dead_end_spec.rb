# frozen_string_literal: true

require "spec_helper"

# Whatever was seen, something can be decided besides testing, and what is left as it is says what it costs the driver.
RSpec.describe Gadwall::Decision::Options do
  def options(system, *entries, said: [])
    assessment = assess(system, *entries)
    described_class.new(assessment, assessment.verdict.conclusions.first, triage: said)
  end

  def scan_of(code)
    {
      "kind" => "scan",
      "modules" => [{ "name" => "ABS", "answered" => true }],
      "codes" => [Gadwall::TroubleCodes::CodeReader.row_of(code)]
    }
  end

  let(:system) { system_with("passive") }

  it "keeps a vehicle off the road where neither repair nor monitoring may be chosen" do
    found = options(system, scan_of("C0031-13 current"), said: ["red_lamp"]).choices
    free = found.reject(&:refused)
    expect(free.map(&:id)).to eq(["off_the_road"])
    expect(found.select(&:refused).map(&:refused)).to all(include("keep it off the road"))
  end

  it "offers no such thing for a vehicle that may be driven" do
    found = options(system, scan_of("C0031-13 current")).choices
    expect(found.map(&:id)).not_to include("off_the_road")
    expect(found.find { |each| each.id == "watch" }.refused).to be_nil
  end

  it "names what stays off for this part while it is monitored" do
    watch = options(system, scan_of("C0031-13 current")).choice("watch")
    expect(watch.note).to start_with("ABS and stability control stay off, and the brake balance")
    families = Gadwall::Knowledge.catalogue.circuits.values.map { |template| template["family"] }.uniq
    expect(families - Gadwall::Knowledge.catalogue.stays_off.keys).to eq([])
  end

  it "offers no solder where the lead flexes" do
    places = Gadwall::Decision::PlaceOptions
    ids = ->(section) { places.new(system, "front_left/#{section}").choices.map(&:id) }
    flexing, fixed = system.circuits.first.harness.sections.partition(&:flexes).map { |list| list.first.id }
    expect(ids.call(flexing)).not_to include("solder_wire")
    expect(ids.call(fixed)).to include("solder_wire")
  end
end
