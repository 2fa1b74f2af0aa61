# frozen_string_literal: true

require "spec_helper"
require "time"

# Which act may be done at which stage of a job, and what each leaves in the log. No web, no database: a job is a record
# and a log.
RSpec.describe Gadwall::Job::Acts do
  acts = described_class
  entries = Gadwall::Job::Entries

  # A job at the bench: acts are done to it, and leave it as it is where they are refused.
  class Bench
    AT = Time.utc(2026, 11, 24, 8)
    BY = "K. Tern"
    VEHICLE = { "name" => "Spec van", "sensors" => "passive" }.freeze

    attr_reader :dossier, :outcome

    def initialize
      record =
        Gadwall::Job::Record.new(id: 1, number: "J101", customer: "A. Reed", complaint: "lamp", vehicle: VEHICLE).freeze
      sheet = Gadwall::Vehicle::Sheet.new(VEHICLE)
      system = Gadwall::Vehicle::System.build(sheet, models: CoreHelp::MODELS)
      @dossier = Gadwall::Job::Dossier.new(record, Gadwall::Job::Log.new([], system))
      @at = AT
    end

    # Does an act; true where it was made.
    def perform(act, **values)
      @outcome = act.call(dossier, values, by: BY, at: @at += 3600)
      return false unless @outcome.ok?

      made =
        @outcome.entries.each_with_index.map do |entry, i|
          entry.stamped(seq: dossier.last_seq + i + 1, at: @at.iso8601, by: BY)
        end
      @dossier = dossier.with(made)
      true
    end

    # May the act be done now, with these values? Nothing is changed.
    def allows?(act, **values)
      act.call(dossier, values, by: BY, at: @at).closed.nil?
    end

    def stage
      dossier.stage.id
    end
  end

  SCAN = {
    modules: [{ "name" => "ABS", "answered" => true }],
    codes: [{ "code" => "C0031", "failure_type" => "13" }]
  }.freeze
  CLEAN = { modules: [{ "name" => "ABS", "answered" => true }], codes: [], phase: "after" }.freeze
  def take(bench, test, typed, phase: "before")
    bench.perform(described_class::TakeReading, test: "front_left.#{test}", typed: typed, phase: phase)
  end

  # A job taken as far as the stage.
  def at(stage)
    bench = Bench.new
    return bench if stage == "codes"

    bench.perform(described_class::KeepScan, **SCAN)
    return bench if stage == "trace"

    take(bench, "resistance.sensor_plug", "OL")
    take(bench, "resistance.sensor_plug", "OL")
    take(bench, "bias.sensor_plug", "5.0")
    return bench if stage == "decide"

    bench.perform(described_class::Decide, option: "new_sensor", signed_by: "A. Reed", words: "yes")
    return bench if stage == "repair"

    sign(bench) until bench.dossier.plan.done?
    return bench if stage == "proof"

    verify(bench)
    bench.perform(described_class::HandOver, words: "as agreed")
    bench
  end

  def sign(bench)
    step = bench.dossier.plan.next_row.step
    bench.perform(described_class::BeginWait, step: step.id) if step.wait_minutes
    given = Demo::SignOff.values(step)
    bench.perform(described_class::SignStep, step: step.id, **given) or raise bench.outcome.to_s
  end

  def verify(bench)
    bench.perform(described_class::KeepScan, **CLEAN)
    take(bench, "resistance.sensor_plug", "1.06k", phase: "after")
    sign(bench) while bench.dossier.plan.next_row&.step&.phase == "drive"
    bench.perform(described_class::SignDrive, read: "1") or raise bench.outcome.to_s
    sign(bench) while bench.dossier.plan.next_row
  end

  # {act => [values, stages at which it is open]}
  search = %w[codes trace decide]
  work = %w[repair proof]
  {
    acts::KeepScan => [SCAN, search],
    acts::SkipScan => [{ reason: "no tool" }, search],
    acts::TakeReading => [{ test: "front_left.resistance.sensor_plug", typed: "1k", phase: "before" }, search],
    acts::TakeFindings => [{ rows: [{ "test" => "front_left.look_ring", "result" => "good" }], capture: 1 }, search],
    acts::SayCircumstances => [{ ids: %w[wet], shop_cases: true }, search],
    acts::Decide => [{ option: "watch", signed_by: "A", words: "" }, search],
    acts::Reopen => [{ reason: "a second fault" }, work],
    acts::RecordSetUp => [{ routine: "bleed", tool: "A", result: "worked", note: "" }, work],
    acts::Promise => [{ promised_at: "2026-12-01T10:00:00Z" }, search + work],
    acts::Withdraw => [{ entry: 1, reason: "x" }, search + work],
    acts::SignDrive => [{ failed: ["key_on"], not_run: [], read: "1" }, %w[proof]],
    acts::HandOver => [{ words: "" }, %w[proof]],
    acts::NoteComeback => [{ words: "again", same: true }, %w[report]],
    acts::AddNote => [{ words: "seen" }, search + work + %w[report]]
  }.each do |act, (values, open)|
    it "does #{act.name.split("::").last} at #{open.join(", ")} only" do
      all = %w[codes trace decide repair proof report]
      expect(all.select { |stage| at(stage).allows?(act, **values) }).to eq(open)
    end
  end

  it "takes a job through every stage, each entry with its place, day and name" do
    bench = Bench.new
    stages = [bench.stage]
    { "trace" => nil, "decide" => nil, "repair" => nil, "proof" => nil, "report" => nil }.each_key do |stage|
      stages << at(stage).stage
    end
    expect(stages).to eq(%w[codes trace decide repair proof report])
    log = at("report").dossier.log.entries
    expect(log.map(&:seq)).to eq((1..log.size).to_a)
    expect(log.map(&:by).uniq).to eq([Bench::BY])
    expect(log.map(&:at)).to eq(log.map(&:at).sort)
    expect(log.map(&:kind).uniq).to eq(%w[scan reading decision plan step drive handover])
  end

  it "signs what was shown: place, reasons, price and plan stand in the entries themselves" do
    decision, plan = at("repair").dossier.log.entries.last(2)
    expect(decision.to_h["snapshot"]["suspect"]).to include(
      "place" => "front_left/sensor",
      "text" => /sensor coil open/
    )
    expect(plan.to_h["steps"].map { |step| step["id"] }).to include(
      "lift",
      "renew_sensor-front_left-sensor",
      "wheel_torque"
    )
  end

  it "wants a reason for every withdrawal and reopening, and a name under every decision" do
    bench = at("decide")
    expect(bench.perform(acts::Withdraw, entry: 2, reason: " ")).to be(false)
    expect(bench.perform(acts::Decide, option: "new_sensor", signed_by: "", words: "")).to be(false)
    expect(bench.outcome.errors.keys).to eq(%w[signed_by])
    bench = at("repair")
    expect(bench.perform(acts::Reopen, reason: "")).to be(false)
    expect(bench.perform(acts::Reopen, reason: "a second fault seen")).to be(true)
    expect([bench.stage, bench.dossier.decided?]).to eq(["decide", false])
  end

  it "takes the confirming test after the steps only, and the hand-over after all checks" do
    bench = at("repair")
    expect(take(bench, "resistance.sensor_plug", "1.06k", phase: "after")).to be(false)
    expect(bench.outcome.errors["reading"]).to include("Sign the steps of the repair first")
    bench = at("proof")
    expect(bench.perform(acts::HandOver, words: "")).to be(false)
    verify(bench)
    expect(bench.perform(acts::HandOver, words: "as agreed")).to be(true)
    expect(bench.dossier.log.entries.last).to be_a(entries::Handover)
  end

  it "changes nothing where it is refused" do
    %w[codes decide repair proof report].each do |stage|
      bench = at(stage)
      before = bench.dossier.log.entries.map(&:to_h)
      bench.perform(acts::TakeReading, test: "front_left.resistanc.sensor_plug", typed: "1k", phase: "before")
      bench.perform(acts::TakeReading, test: "front_left.resistance.sensor_plug", typed: "lots", phase: "before")
      expect(bench.dossier.log.entries.map(&:to_h)).to eq(before), stage
    end
  end
end
