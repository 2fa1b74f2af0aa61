# frozen_string_literal: true

require "yaml"

# Cases of a workshop of our own invention, told as a technician would tell them: evidence in stages, and after each
# what should lead, what should be among the first three tests, which state the verdict may have (spec/cases/stages).
RSpec.describe "Cases told in stages" do
  FILES = Dir[File.expand_path("../../cases/stages/*.yml", __dir__)]

  def entries_of(system, stage)
    lamps = stage["lamps"] || {}
    [
      (lamps_entry(lamps) if lamps.any?),
      ({ "kind" => "symptoms", "ids" => stage["said"] } if stage["said"]),
      ({ "kind" => "presence", "fault" => stage["presence"] } if stage["presence"]),
      (scan_entry(stage["scan"]) if stage["scan"]),
      *(stage["tests"] || []).map { |id, value, condition| test_entry(system, id, value.to_s, condition) }
    ].compact
  end

  def lamps_entry(lamps)
    lit = lamps.except("out").map { |id, time| { "lamp" => id, "when" => time }.compact }
    { "kind" => "lamps", "lit" => lit, "out" => lamps["out"] || [] }
  end

  def scan_entry(scan)
    rows = (scan["codes"] || []).map { |line| Gadwall::TroubleCodes::CodeReader.row_of(line) }
    modules = (scan["modules"] || { "ABS" => true }).map { |name, answered| { "name" => name, "answered" => answered } }
    { "kind" => "scan", "modules" => modules, "codes" => rows }
  end

  def test_entry(system, id, value, condition)
    entry = system.test(id).last.numeric? ? reading(id, value) : finding(id, value)
    condition ? entry.merge("condition" => condition) : entry
  end

  def check(assessment, wanted, where)
    places = assessment.posterior.places.first(4).map { |place, p| "#{place} #{p.round(3)}" }.join(", ")
    verdict = assessment.verdict
    lead(assessment, wanted, "#{where}: #{places}")
    first = assessment.next_tests.first(3).map(&:id)
    if wanted["tests"]
      found = first.any? { |id| Array(wanted["tests"]).any? { |pattern| File.fnmatch(pattern, id) } }
      expect(found).to be(true), "#{where}: first tests #{first.join(", ")}"
    end
    return unless wanted["state"]

    expect(Array(wanted["state"])).to include(verdict.state),
    "#{where}: #{verdict.state} #{places} missing #{verdict.missing.map(&:need)}"
  end

  def lead(assessment, wanted, message)
    lines = assessment.verdict.conclusions.map { |each| each.suspect.place }
    top = assessment.posterior.places.keys.first
    expect(Array(wanted["lead"])).to include(lines.first).or(include(top)), message if wanted["lead"]
    expect(Array(wanted["circuit"])).to include(top.split("/").first), message if wanted["circuit"]
    expect(lines).to match_array(wanted["lines"]), "#{message}; lines #{lines}" if wanted["lines"]
    return unless wanted["not_lead"]

    expect(Array(wanted["not_lead"]).none? { |pattern| File.fnmatch(pattern, top) }).to be(true), message
  end

  it "has sixty cases at least, four for each kind" do
    sections = FILES.map { |file| YAML.safe_load_file(file)["section"] }
    expect(FILES.size).to be >= 60
    expect((1..9).map { |section| sections.count(section) }).to all(be >= 4)
  end

  FILES.each do |file|
    data = YAML.safe_load_file(file)
    it "#{File.basename(file, ".yml").tr("_", " ")}: #{data["title"]}" do
      pending(data["open"]) if data["open"]
      system = system_with(data["sensors"] || "active", **(data["vehicle"] || {}).transform_keys(&:to_sym))
      entries = []
      data["stages"].each_with_index do |stage, i|
        entries += entries_of(system, stage)
        check(assess(system, *entries), stage["then"] || {}, "stage #{i + 1}, #{stage["tell"]}")
      end
    end
  end
end
