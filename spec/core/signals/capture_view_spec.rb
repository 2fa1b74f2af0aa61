# frozen_string_literal: true

require "json"
require "stringio"
require "tmpdir"
require_relative "../../support/core/tone_ring"

# What a page draws of a capture, how far reading it is, and what it says as evidence.
RSpec.describe Gadwall::Signals::Waveform do
  panel =
    lambda do |times, **series|
      described_class::Panel.new(title: "CH1", unit: "V", time_s: times, series: series.transform_keys(&:to_s))
    end

  # {panel => [times, series, ...]} out of the bytes, by the layout that the viewer knows.
  def unpacked(bytes)
    head, rest = bytes.split("\n".b, 2)
    at = 0
    take =
      lambda do |format, size, width|
        rest.byteslice(at, size * width).unpack("#{format}#{size}").tap { at += ((size * width) + 7) / 8 * 8 }
      end
    JSON.parse(head)["panels"].map do |row|
      times =
        if row["even"]
          (0...row["samples"]).map { |i| row["even"][0] + (i * row["even"][1]) }
        else
          take.call("E", row["samples"], 8)
        end
      [times, *row["series"].map { take.call("e", row["samples"], 4) }]
    end
  end

  it "packs even and uneven times, one series or more, and gives them back" do
    uneven = [0.0, 0.1, 0.3, 0.35, 1.0]
    trace =
      described_class.new(
        [
          panel.call((0..6).map { |i| 2 + (i * 0.25) }, a: (0..6).map(&:to_f), b: [1.5] * 7),
          panel.call(uneven, c: [1.0, -1.0, 2.0, 0.5, 0.25])
        ]
      )
    even, odd = unpacked(trace.to_bytes)
    expect(even).to match([(0..6).map { |i| be_within(1e-9).of(2 + (i * 0.25)) }, (0..6).map(&:to_f), [1.5] * 7])
    expect(odd).to eq([uneven, [1.0, -1.0, 2.0, 0.5, 0.25]])
  end

  it "keeps the least and the most of what is too much to keep whole" do
    stub_const("#{described_class}::MOST_SAMPLES", 100)
    values = (0...1000).map { |i| i == 617 ? 9.0 : Math.sin(i) }
    times, kept =
      unpacked(described_class.new([panel.call((0...1000).map { |i| i * 0.001 }, a: values)]).to_bytes).first
    expect(times.size).to be <= 102
    expect([kept.max, kept.min]).to match([9.0, be_within(0.01).of(-1)])
    expect(times).to eq(times.sort)
  end

  it "tells a panel in rows: from, to, least and most" do
    rows = described_class.new([]).table(panel.call((0..100).map { |i| i * 0.01 }, a: (0..100).map(&:to_f)), rows: 4)
    expect(rows.map { |from, upto, extents| [from, upto, *extents[0]] }).to eq(
      [[0.0, 0.25, 0.0, 24.0], [0.25, 0.5, 25.0, 49.0], [0.5, 0.75, 50.0, 74.0], [0.75, 1.0, 75.0, 100.0]]
    )
  end
end

RSpec.describe Gadwall::Signals::CaptureFile do
  def wheel(folder, **ring)
    times, volts = ToneRing.new(48, **ring).passive(->(_) { 1.5 }, 4.0, 10_000, volt: 1.0, noise: 0.004, start: 0.5)
    File
      .join(folder, "a.csv")
      .tap do |path|
        File.write(path, "Time (s),CH1 (V)\n#{times.zip(volts).map { |pair| pair.join(",") }.join("\n")}\n")
      end
  end

  it "says how far it is, and shows the moments of each gap and the speed of the wheel" do
    Dir.mktmpdir do |folder|
      shares = []
      found, trace =
        described_class.view(
          wheel(folder, missing: [9]),
          { "signal" => "wheel_speed", "teeth" => "48", "circumference" => "1.9276" },
          on_progress: ->(share) { shares << share }
        )
      expect(shares).to eq(shares.sort)
      expect([shares.size, shares.first, shares.last]).to match([be > 3, be < 0.2, described_class::ANALYSED])
      moments = found[:marks].first[:at_s]
      # tooth 9 is half a pitch from where the angle starts
      expect(moments.map { |at| (at * 1.5 * 48) % 48 }).to all(be_within(0.3).of(8.5))
      speed = trace.panels.last
      expect([speed.title, speed.unit, speed.series["smoothed"].sum / speed.series["smoothed"].size]).to match(
        ["Speed of the wheel", "km/h", be_within(0.05).of(1.5 * 1.9276 * 3.6)]
      )
      expect(speed.series["each tooth"].min).to be_within(0.5).of(1.5 * 1.9276 * 3.6 / 2)
      expect(found[:tooth_hz]).to be_within(0.05).of(72)
    end
  end

  it "is the same from the shell, with the samples beside it" do
    Dir.mktmpdir do |folder|
      out = StringIO.new
      err = StringIO.new
      view = File.join(folder, "view")
      status =
        Gadwall::CLI::Runner.new(out: out, err: err).run(
          [
            "capture",
            wheel(folder, low: { 5 => 0.5 }),
            "--signal",
            "wheel_speed",
            "--teeth",
            "48",
            "--view",
            view,
            "--progress"
          ]
        )
      expect([status, JSON.parse(out.string).keys]).to match(
        [0, include("ring", "marks", "overview", "tooth_hz", "findings")]
      )
      expect(err.string.lines).to all(match(/\Aprogress 0\.\d+\n\z/))
      expect(File.binread(view)).to start_with("{\"panels\":[{\"title\":\"CH1\"")
    end
  end

  it "answers a mapping that is none, and a place that cannot be written, in one sentence" do
    Dir.mktmpdir do |folder|
      log = File.join(folder, "l.csv").tap { |path| File.write(path, "time,Value 1\n0,1\n1,2\n") }
      run =
        lambda do |*more|
          Gadwall::CLI::Runner.new(out: StringIO.new, err: (@err = StringIO.new)).run(
            ["capture", log, "--signal", "live_data", *more]
          )
        end
      expect([run.call("--columns", "{"), @err.string]).to match(
        [1, /\A--columns: '\{' is not valid\. Expected a JSON object/]
      )
      expect([run.call("--columns", '{"Value 1": "smell"}'), @err.string]).to match([1, /smell/])
      expect(run.call("--columns", '{"Value 1": "yaw_rate"}')).to eq(0)
      expect([run.call("--view", "/nowhere/at/all"), @err.string]).to match(
        [1, %r{--view: '/nowhere/at/all' is not valid}]
      )
    end
  end
end

RSpec.describe Gadwall::Signals::VcdCapture do
  # SG-01: IEEE 1364, clause 18, from memory: timescales, vectors, reals, x and z.
  it "SG-01 takes every timescale, several variables in scopes, and passes over vectors, reals, x and z" do
    {
      "1 us" => 1e-6,
      "10ns" => 1e-8,
      "100 ps" => 1e-10,
      "1 ms" => 1e-3,
      "1 s" => 1.0,
      "10 fs" => 1e-14
    }.each do |scale, seconds|
      text =
        "$date today $end $version 1 $end $timescale #{scale} $end $scope module t $end $var wire 1 ! ws $end $var " \
          "wire 8 # bus $end $var real 64 $ volts $end $upscope $end $enddefinitions $end\n" \
          "#0 $dumpvars x! b00000000 # r0.0 $ $end\n#5 1! b101 #\n#9 z! r1.5 $\n#12 0!\n#20 1!\n#25 1!\n#30 0!\n"
      capture = described_class.read(StringIO.new(text)).only("ws")
      expect(capture.time_s.map { |time| (time / seconds).round }).to eq([5, 12, 20, 30]), scale
      expect(capture.channels[0].values).to eq([1.0, 0.0, 1.0, 0.0])
    end
  end
end

RSpec.describe Gadwall::Signals::TrainOfTeeth do
  # SG-03: common practice: from 1.5 periods on teeth are missing, under 0.67 an edge is one too many.
  it "SG-03 tells missing teeth and edges too many by the ratio of the period to its neighbours'" do
    times = (0...60).map { |k| k * 0.01 }
    passages = ->(list) { list.sort.map { |time| Gadwall::Signals::Edges::Passage.new(time, 1.0, 1.0) } }
    two_missing = described_class.new(passages.call(times - [times[20], times[21]]), 48)
    expect(two_missing.teeth.each_cons(2).map { |a, b| b.position - a.position }.tally).to eq(1 => 56, 3 => 1)
    extra = described_class.new(passages.call(times + [0.304]), 48)
    expect([extra.extra, extra.extra_at_s.first, extra.teeth.size]).to match([1, be_within(0.005).of(0.302), 60])
  end
end

RSpec.describe Gadwall::Signals::PumpCycle do
  # HY-06: common practice: bursts of 15 to 20 s with seconds of rest cannot hold pressure; very short quick cycles are
  # lost gas; some seconds and then minutes of rest are good.
  it "HY-06 tells a leak from lost gas, and a good one from both" do
    { [17, 5] => ["leaks_down"], [1.5, 4] => ["short_cycling"], [8, 300] => [] }.each do |(run, rest), kinds|
      expect(described_class.new(run_s: run, rest_s: rest).to_h[:findings].map { |row| row[:kind] }).to eq(kinds)
    end
    expect(described_class.new(run_s: 1.5, rest_s: 4).to_h[:precharge_bar]).to be < 20
  end

  it "refuses what is no time" do
    [[0, 5], [5, -1], ["soon", 5], [Float::NAN, 1]].each do |run, rest|
      expect { described_class.new(run_s: run, rest_s: rest) }.to raise_error(
        Gadwall::InputError,
        /Enter seconds above 0/
      )
    end
  end
end

RSpec.describe Gadwall::Signals::AsEvidence do
  let(:system) do
    Gadwall::Vehicle::System.build(
      Gadwall::Vehicle::Sheet.new(
        "name" => "spec",
        "sensors" => "active",
        "stability" => "yes",
        "park_brake" => "caliper_motor"
      )
    )
  end

  def said(findings, **more)
    described_class
      .of_live({ "mapping" => {}, "findings" => findings, **more.transform_keys(&:to_s) }, system)
      .to_h { |entry| [entry["test"], entry["result"]] }
  end

  it "takes a sensor that lies in bends or at rest, and clears the others that were judged" do
    bends = { "rest" => %w[yaw_rate lateral_acceleration], "bends" => %w[wheel_speeds yaw_rate steering_angle] }
    expect(said([], judged: bends)).to eq(
      "yaw_sensor.live_rest" => "good",
      "yaw_sensor.live_bend" => "good",
      "steering_angle.live_bend" => "good"
    )
    off = { "kind" => "disagrees", "parameter" => "steering_angle", "confidence" => 0.9 }
    expect(said([off.merge("steadily" => true)], judged: bends)).to include(
      "steering_angle.live_bend" => "off",
      "yaw_sensor.live_bend" => "good"
    )
    expect(said([off.merge("steadily" => false)], judged: bends)).to include("steering_angle.live_bend" => "wrong")
    expect(said([off.merge("steadily" => nil)], judged: bends)).not_to have_key("steering_angle.live_bend")
    expect(said([{ "kind" => "offset_at_rest", "parameter" => "lateral_acceleration" }], judged: bends)).to include(
      "yaw_sensor.live_rest" => "offset"
    )
  end

  it "takes a park-brake motor without current, and no wheel where there are too few to judge by" do
    expect(said([{ "kind" => "park_brake_no_current", "side" => "right" }])).to eq(
      "park_brake_right.live_clamp" => "none"
    )
    expect(said([], mapping: { "a" => "wheel_front_left", "b" => "wheel_front_right" })).to eq({})
  end

  it "takes the brake switch for good where it was seen held and released, and for what it did" do
    both = { "switch" => %w[held released] }
    expect(said([], judged: both)).to eq("brake_switch.live_held" => "good", "brake_switch.live_released" => "good")
    expect(said([{ "kind" => "switch_drops_out" }], judged: { "switch" => ["held"] })).to eq(
      "brake_switch.live_held" => "dropouts"
    )
    expect(said([{ "kind" => "switch_stays_off" }], judged: both)).to eq(
      "brake_switch.live_held" => "none",
      "brake_switch.live_released" => "good"
    )
    expect(said([{ "kind" => "switch_stays_on" }], judged: both)).to eq(
      "brake_switch.live_held" => "good",
      "brake_switch.live_released" => "stuck"
    )
  end

  it "says only what the circuits' tests can show" do
    system.circuits.each do |circuit|
      circuit.model.tests.each_value { |test| expect((test.outcomes || {}).keys).to all(be_a(String)) }
    end
  end
end
