# frozen_string_literal: true

require "spec_helper"
require "fileutils"
require "tmpdir"

# docs/data.md, step by step, in a copy of data/: what is added works, what is wrong is named.
RSpec.describe Gadwall::Knowledge do
  around do |example|
    Dir.mktmpdir do |folder|
      FileUtils.cp_r(described_class::FOLDER, folder)
      @data = File.join(folder, "data")
      example.run
    end
  end

  def append(file, text)
    File.open(File.join(@data, file), "a") { |out| out.write(text) }
  end

  def replace(file, from, to)
    path = File.join(@data, file)
    File.write(path, File.read(path).sub(from) { to })
  end

  def catalogue
    described_class::Catalogue.new(@data)
  end

  def system(**sheet)
    sheet = Gadwall::Vehicle::Sheet.new({ "name" => "x", "sensors" => "passive" }.merge(sheet.transform_keys(&:to_s)))
    Gadwall::Vehicle::System.build(sheet, catalogue)
  end

  it "fits its schemas, file by file" do
    expect(described_class::Schemas.wrong(described_class::FOLDER)).to eq([])
  end

  it "takes a circuit with its tests and faults" do
    File.write(File.join(@data, "circuits/clutch_switch.yml"), <<~YAML)
      id: clutch_switch
      like: park_brake_switch
      name: Clutch switch, monitored
      far_end:
        id: switch
        name: clutch switch
      source: demo
    YAML
    append("vehicle/circuits.yml", <<~YAML)
      - id: clutch_switch
        title: clutch switch
        template: clutch_switch
        module: abs
        at: [60, 60]
        when:
          driver_side: [left]
        source: demo
    YAML
    built = system
    expect(built.test_ids).to include("clutch_switch.switch_ohms.switch_plug", "clutch_switch.live_switch")
    expect(built.fault_ids.grep(/\Aclutch_switch\./).size).to be > 10
    expect(system(driver_side: "right").circuits.map(&:id)).not_to include("clutch_switch")
    expect(described_class::Schemas.wrong(@data)).to eq([])
  end

  it "takes a way to fail and a test that shows it" do
    append("parts/fluid_level.yml", <<~YAML)
      - id: frozen
        place: fluid
        name: brake fluid frozen
        effect: observable
        observable: frozen
        severity:
          points: [1.0]
        rate: 0.01
        intermittent: 0.0
        repair: find_leak
        source: demo
    YAML
    append("tests/fluid_level.yml", <<~YAML)
      - id: feel_fluid
        title: Fluid stirred with a clean rod
        kind: watch
        hit: 0.95
        outcomes:
          good: moves
          frozen: does not move
        rules:
          - outcome: frozen
            observable: frozen
        where: Cap off, clean rod.
        minutes: 1
        source: demo
    YAML
    circuit = system.circuit_named("fluid_level")
    index = circuit.model.faults.index { |fault| fault.mode == "frozen" }
    table = circuit.model.table(circuit.model.tests.fetch("feel_fluid"))
    expect(table.touches?(index)).to be(true)
    expect(described_class::Schemas.wrong(@data)).to eq([])
  end

  it "takes a DTC" do
    append("codes/chassis.yml", <<~YAML)
      - id: C0F0F
        circuits: [brake_switch]
        part: switch
        claim: any
        text: Spec switch
        source: demo
    YAML
    read = Gadwall::TroubleCodes::CodeReader.new(system.sheet, catalogue).read({ "code" => "C0F0F" }, seq: 1)
    expect([read.circuit_id, read.claim]).to eq(%w[brake_switch any])
  end

  it "takes a step by what a repair touches" do
    append("repairs/touches.yml", <<~YAML)
      - id: spec_row
        options: [new_fuse]
        touches: ["near:hot_parts"]
        source: demo
    YAML
    append("repairs/rules/close.yml", <<~YAML)
      - id: spec_step
        phase: close
        for: ["near:hot_parts"]
        with: ["renews:fuse"]
        does: []
        after: [renew_fuse]
        title: Check the spec
        text: Twice.
        why: Once is too few.
        hold: true
        source: demo
    YAML
    circuit = system.circuit_named("brake_switch")
    place = circuit.model.faults.find { |each| each.repair == "renew_fuse" }.place
    work = Gadwall::Repair::Work.at(circuit, place, repair: "renew_fuse", option: "new_fuse", system: system)
    ids = Gadwall::Repair::Composer.plan(system, [work]).steps.map(&:id)
    expect(ids.index("spec_step")).to be > ids.index("renew_fuse-brake_switch-#{place}")
  end

  it "names the rules that follow one another in a circle" do
    append("repairs/rules/close.yml", <<~YAML)
      - id: spec_step
        phase: close
        for: [always]
        does: []
        after: ["lowers:*"]
        before: ["lifts:*"]
        title: Check the spec
        text: Twice.
        why: Once is too few.
        hold: true
        source: demo
    YAML
    expect { Gadwall::Repair::RuleBase.of(catalogue) }.to raise_error(Gadwall::KnowledgeError, /spec_step.*circle/)
  end

  # [file, what stands there, what is put there, what is said]
  [
    ["parts/fuse.yml", /source: .*/, "source: my cousin", /fuse.yml: record 'blown', key 'source'.*my cousin/],
    ["parts/fuse.yml", "- id: blown", "- id:", /fuse.yml.*id.*missing/m],
    ["repairs/options.yml", "- id: solder_wire", "- id: renew_lead", /options.yml.*renew_lead.*twice/],
    ["tests/harness.yml", "- id: continuity", "- id: [", /harness.yml.*line/]
  ].each do |file, from, to, message|
    it "names #{file} and the record where '#{to}' stands" do
      replace(file, from, to)
      expect { system.circuits.each { |circuit| circuit.model.tests } }.to raise_error(Gadwall::KnowledgeError, message)
    end
  end

  # [file, from, to, what the schema says]
  [
    ["tests/harness.yml", "  kind: ohms", "  kind: smell", /harness.yml, continuity: 'kind'/],
    ["tests/harness.yml", "  minutes: 2", "  minuts: 2", /harness.yml, continuity: the field 'minuts' is not known/],
    ["repairs/rules/read.yml", "  hold: false", "  hold: perhaps", /read.yml, scan_first: 'hold'/],
    ["diagnosis/gates.yml", "needs: []", "needs: none", /gates.yml, ring: 'needs'/]
  ].each do |file, from, to, message|
    it "says by its schema what does not fit in #{file} where '#{to.strip}' stands" do
      replace(file, from, to)
      expect(described_class::Schemas.wrong(@data).join("\n")).to match(message)
    end
  end

  it "stands in docs/circuits.md as it is (written by bin/circuits)" do
    written = File.read(File.expand_path("../../../docs/circuits.md", __dir__))
    expect(written == Gadwall::CircuitBook.new(catalogue).to_s).to be(true), "run bin/circuits"
  end
end
