# frozen_string_literal: true

require "json"
require "stringio"
require "tmpdir"
require_relative "../../support/core/tone_ring"
require_relative "../../support/core/cycle_ring"

# Wheel-speed signals made from the geometry of a ring (spec/support/core/tone_ring.rb) and, another way, from cycles
# (spec/support/core/cycle_ring.rb), never by inverting the analysis.
RSpec.describe Gadwall::Signals::WheelSpeed do
  def analysed(time_s, values, unit: "V", teeth: 48, **options)
    channel = Gadwall::Signals::Capture::Channel.new(name: "CH1", unit: unit, values: values)
    Gadwall::Signals::WheelSpeed.new(Gadwall::Signals::Capture.new(time_s, [channel]), teeth: teeth, **options)
  end

  # A speed in turns a second: steady, rising, falling, or by hand.
  def speed(kind, random)
    base = random.rand(0.8..3.0)
    case kind
    when :steady
      ->(_) { base }
    when :rising
      ->(t) { (0.35 * base) + (0.3 * base * t) }
    when :falling
      ->(t) { base * (1.25 - (0.18 * t)) }
    when :hand
      ->(t) { base * (1 + (0.2 * Math.sin(2 * Math::PI * ((0.8 * t) + 0.1)))) }
    end
  end

  KINDS = %i[clean missing split low runout dropouts extra weak count none].freeze

  # One capture of a kind with its truth: [analysis, what must be found].
  def made(kind, sensor, motion, random)
    tooth = random.rand(2..44)
    ring = {
      missing: -> { ToneRing.new(48, missing: [tooth]) },
      split: -> { ToneRing.new(48, split: [tooth, random.rand(1.3..1.6)]) },
      low: -> { ToneRing.new(48, low: { tooth => random.rand(0.4..0.58) }) },
      runout: -> { ToneRing.new(48, runout: random.rand(0.5..1.1)) },
      count: -> { ToneRing.new(44, missing: [tooth % 40]) },
      none: -> { ToneRing.new(48, missing: (0...48).to_a) }
    }
    made = (ring[kind] || -> { ToneRing.new(48) }).call
    options = { noise: sensor == "passive" ? 0.004 : 0.02, random: random, start: 0.5 }
    options[:volt] = kind == :weak ? random.rand(0.04..0.1) : random.rand(0.4..2.0) if sensor == "passive"
    turn = speed(motion, random)
    time_s, values = made.public_send(sensor, turn, 4.0, 10_000, **options)
    disturb(kind, sensor, values, random)
    [analysed(time_s, values, sensor: sensor), expected(kind, tooth, made)]
  end

  def disturb(kind, sensor, values, random)
    case kind
    when :dropouts
      [0.9, 1.7, 2.9].each do |at|
        ((at * 10_000).to_i...((at + random.rand(0.06..0.12)) * 10_000).to_i).each do |i|
          values[i] = sensor == "passive" ? 0.0 : 0.8
        end
      end
    when :extra
      [0.6, 1.33, 2.07, 2.81, 3.4].each { |at| 3.times { |d| values[(at * 10_000).to_i + d] += 4.0 } }
    end
  end

  def expected(kind, tooth, _ring)
    {
      clean: [nil],
      missing: ["missing_teeth", { teeth: [tooth] }],
      split: ["wide_gap", { teeth: [tooth, tooth + 1] }],
      low: ["damaged_tooth", { teeth: [tooth] }],
      runout: ["runout"],
      dropouts: ["dropouts"],
      extra: ["extra_edges"],
      weak: ["weak_amplitude"],
      count: ["tooth_count_mismatch", { seen: 44, expected: 48 }],
      none: ["no_signal"]
    }.fetch(kind)
  end

  def right?(analysis, truth)
    kind, details = truth
    return analysis.verdict == "clean" if kind.nil?

    found = analysis.findings.find { |finding| finding.kind == kind }
    !found.nil? && (details || {}).all? { |name, value| found.details[name] == value }
  end

  it "reads 97 of 100 seeded captures of every kind and motion right, and gives no false alarm on clean ones",
     :simulation do
    wrong = []
    clean = []
    seed = 0
    KINDS
      .product(%w[passive active], %i[steady rising falling hand])
      .each do |kind, sensor, motion|
        next if sensor == "active" && %i[low runout weak].include?(kind)

        analysis, truth = made(kind, sensor, motion, Random.new(seed += 1))
        clean << analysis.verdict if kind == :clean
        wrong << [kind, sensor, motion, analysis.findings.map(&:to_h)] unless right?(analysis, truth)
      end
    RSpec.configuration.reporter.message("  #{seed - wrong.size} of #{seed} captures right")
    expect(seed).to be >= 65
    expect(clean.uniq).to eq(["clean"]), wrong.inspect
    expect(wrong.size).to be <= seed * 0.03, wrong.map(&:inspect).join("\n")
  end

  it "gives a weak sensor's smallest useful swing at the speed where it was taken" do
    speed = ->(time) { 0.5 + (0.5 * time) }
    time_s, values = ToneRing.new(48).passive(speed, 4.0, 10_000, volt: 0.06)
    finding =
      analysed(time_s, values, teeth: 48, sensor: "passive").findings.find { |each| each.kind == "weak_amplitude" }
    details = finding.details
    expect(details[:at_turns_s]).to be_between(0.45, 0.75)
    expect(details[:peak_to_peak_v] / details[:at_turns_s]).to be_within(details[:at_one_turn_v] * 0.1).of(
      details[:at_one_turn_v]
    )
  end

  it "tells a count from its multiple by what a revolution looks like" do
    steady = ->(_) { 1.4 }
    ring = ToneRing.new(96, missing: [20, 57, 58], random: Random.new(4))
    time_s, values = ring.active(steady, 5.0, 20_000)
    kinds = analysed(time_s, values, teeth: 48, sensor: "active").findings.to_h { |each| [each.kind, each.details] }
    expect(kinds.dig("tooth_count_mismatch", :seen)).to eq(96)
    own = analysed(time_s, values, teeth: 96, sensor: "active").findings.map(&:kind)
    expect(own).to include("missing_teeth").and(satisfy { |all| !all.include?("tooth_count_mismatch") })
  end

  it "does not also call interference a drop-out" do
    time_s, values = ToneRing.new(48).active(->(_) { 1.2 }, 4.0, 10_000)
    [0.8, 1.9, 2.6, 3.3].each do |at|
      start = (at * 10_000).to_i
      (start...(start + 260)).each { |i| values[i] = ((i - start) / 12).even? ? 2.4 : 0.2 }
    end
    expect(analysed(time_s, values, teeth: 48, sensor: "active").findings.map(&:kind)).to eq(["extra_edges"])
  end

  describe "with signals made another way" do
    # From standstill and back, by hand, with the ripple of a motor: turns a second at a moment.
    motions = {
      steady: ->(base) { ->(_) { base } },
      rising: ->(base) { ->(t) { base * (0.4 + (0.3 * t)) } },
      hand: ->(base) { ->(t) { base * (1 + (0.25 * Math.sin(2 * Math::PI * ((0.9 * t) + 0.1)))) } },
      spun:
        lambda do |base|
          lambda do |t|
            if t < 0.2
              0.0
            else
              base * 1.4 * (t < 1.2 ? t - 0.2 : Math.exp((1.2 - t) / 2.5))
            end
          end
        end,
      stopping: ->(base) { ->(t) { [1.4 * base * (1 - (t / 4.2)), 0.0].max } }
    }
    triangle =
      lambda do |share|
        if share < 0.25
          4 * share
        else
          share < 0.75 ? 2 - (4 * share) : (4 * share) - 4
        end
      end

    # name => [ring for a count and a cell, kind that must be found, does it fit?]
    rings = {
      "clean" => [->(n, _) { CycleRing.new(n) }, nil, nil],
      "a tooth missing" => [
        ->(n, k) { CycleRing.new(n, missing: [k]) },
        "missing_teeth",
        ->(found, _) { found[:count] == 1 }
      ],
      "a tooth missing, its room taken by the one before" => [
        ->(n, k) { CycleRing.new(n, missing: [k], stretched: true) },
        "missing_teeth",
        ->(found, _) { found[:count] == 1 }
      ],
      "two teeth missing" => [
        ->(n, k) { CycleRing.new(n, missing: [k, k + 1]) },
        "missing_teeth",
        ->(found, k) { found[:count] == 2 && (found[:teeth].first - k).between?(-1, 1) }
      ],
      "a sprung ring" => [
        ->(n, k) { CycleRing.new(n, gap: [k, 1.45]) },
        "wide_gap",
        ->(found, _) { (found[:gap_ratio] - 1.45).abs < 0.07 }
      ],
      "a low tooth" => [
        ->(n, k) { CycleRing.new(n, low: { k => 0.5 }) },
        "damaged_tooth",
        ->(found, _) { found[:teeth].size == 1 }
      ],
      "a wobbling ring" => [
        ->(n, _) { CycleRing.new(n, depth: 0.8) },
        "runout",
        ->(found, _) { (found[:depth] - 0.8).abs < 0.1 }
      ]
    }

    def cut(ring, sensor, speed, random, triangle)
      if sensor == "active"
        return ring.active(speed, 4.0, 10_000, rest: %i[low high].sample(random: random), random: random)
      end

      ring.passive(
        speed,
        4.0,
        10_000,
        volt: random.rand(0.4..1.5),
        random: random,
        **(random.rand(2).zero? ? {} : { shape: triangle })
      )
    end

    it "is right in 97 of 100, for rings of 29 to 100 teeth, from standstill to standstill", :simulation do
      wrong = []
      count = 0
      rings
        .to_a
        .product(%w[passive active], motions.to_a)
        .each do |(name, (made, kind, fits)), sensor, (motion, speed)|
          next if sensor == "active" && ["a low tooth", "a wobbling ring"].include?(name)

          random = Random.new(count += 1)
          teeth = [29, 44, 48, 60, 100].sample(random: random)
          place = random.rand(3..(teeth - 4))
          time_s, values = cut(made.call(teeth, place), sensor, speed.call(random.rand(1.2..2.2)), random, triangle)
          found = analysed(time_s, values, sensor: sensor, teeth: teeth).findings
          right = kind.nil? ? found.empty? : found.map(&:kind) == [kind] && fits.call(found.first.details, place)
          wrong << [name, sensor, motion, teeth, found.map(&:to_h)] unless right
        end
      RSpec.configuration.reporter.message("  #{count - wrong.size} of #{count} captures made another way right")
      expect(wrong.map(&:first)).not_to include("clean"), wrong.inspect
      expect(wrong.size).to be <= count * 0.03, wrong.map(&:inspect).join("\n")
    end
  end

  it "sees a low tooth whole where teeth are broad and gaps narrow, whichever way round the sensor is wired" do
    [1, -1].product([[20], [20, 21]])
      .each do |sign, low|
        ring = ToneRing.new(48, low: low.to_h { |tooth| [tooth, 0.5] }, broad: true)
        time_s, values = ring.passive(->(_) { 1.4 }, 4.0, 10_000, noise: 0.004, start: 0.5)
        found = analysed(time_s, values.map { |value| sign * value }, sensor: "passive").findings
        expect(found.map { |finding| [finding.kind, finding.details[:teeth].size] }).to eq(
          [["damaged_tooth", low.size]]
        )
      end
  end

  # A sensor that tells the direction sends pulses of some 0.1 ms, however long the tooth.
  it "reads narrow pulses at walking pace, and a missing one" do
    [[], [30]].each do |missing|
      random = Random.new(4)
      teeth = (0...(3 * 48)).reject { |k| missing.include?(k % 48) }.map { |k| k / 40.0 }
      times = (0...72_000).map { |i| i / 20_000.0 }
      at = -1
      values =
        times.map do |time|
          at += 1 while at + 1 < teeth.size && teeth[at + 1] <= time
          (time - teeth[[at, 0].max]).between?(0, 180e-6) ? 14.0 : 7.0 + (0.4 * (random.rand - 0.5))
        end
      [nil, "active"].each do |sensor|
        analysis = analysed(times, values, unit: "mA", sensor: sensor)
        expect([analysis.sensor, analysis.findings.map(&:kind)]).to eq(
          ["active", missing.empty? ? [] : ["missing_teeth"]]
        )
      end
    end
  end

  it "takes a hand that slows the wheel once a turn, at the same place, for no gap, and sees a gap there" do
    hand = ->(t) { 1.0 + (0.25 * Math.sin(2 * Math::PI * t)) + (0.06 * Math.sin(6 * Math::PI * t)) }
    [[nil, []], [[24, 1.35], ["wide_gap"]]].each do |split, kinds|
      %i[passive active].each do |sensor|
        time_s, values = ToneRing.new(32, split: split).public_send(sensor, hand, 5.0, 4000, noise: 0.004, start: 0.5)
        expect(analysed(time_s, values, teeth: 32, sensor: sensor.to_s).findings.map(&:kind)).to eq(kinds)
      end
    end
  end

  it "takes a ring sprung so wide that it nearly lacks a tooth for one gap, whatever the turn" do
    [1.68, 1.74, 1.78].each do |gap|
      time_s, values =
        ToneRing.new(32, split: [9, gap]).active(->(t) { 1.4 + (0.1 * t) }, 4.0, 10_000, noise: 0.02, start: 0.5)
      found = analysed(time_s, values, teeth: 32, sensor: "active").findings
      expect(found.map { |finding| [finding.kind, finding.details[:gap_ratio]&.round(1)] }).to eq(
        [["wide_gap", gap.round(1)]]
      )
    end
  end

  it "takes a tooth so low that it is lost at times for no drop-out" do
    time_s, values = ToneRing.new(48, low: { 20 => 0.38 }).passive(->(_) { 1.3 }, 5.0, 10_000, noise: 0.012, start: 0.5)
    kinds = analysed(time_s, values, sensor: "passive").findings.map(&:kind)
    expect(kinds).to eq(["damaged_tooth"]).or eq(["missing_teeth"])
  end

  it "takes the mains alone for no wheel, and asks where a wheel could be meant" do
    random = Random.new(3)
    times = (0...40_000).map { |i| i / 10_000.0 }
    hum =
      lambda do |volt, hertz|
        times.map { |t| (volt * Math.sin((2 * Math::PI * hertz * t) + 1)) + (0.006 * (random.rand - 0.5)) }
      end
    [["passive", 0.02, 50], ["passive", 0.03, 60], ["active", 0.1, 50]].each do |sensor, volt, hertz|
      analysis = analysed(times, hum.call(volt, hertz), sensor: sensor)
      expect(analysis.to_h).to include(
        verdict: "faulty",
        revolutions: 0.0,
        findings: [include(kind: "no_signal", text: /mains' #{hertz} Hz/)]
      )
    end
    expect(analysed(times, hum.call(0.5, 50), sensor: "passive").to_h).to include(
      verdict: "clean",
      note: /as the mains are/
    )
    expect(analysed(times, hum.call(0.5, 48), sensor: "passive").to_h).not_to include(:note)
  end

  it "takes an active sensor's current that goes to nothing for drop-outs, not for interference" do
    time_s, values =
      ToneRing.new(48).active(->(t) { 1.2 + (0.1 * t) }, 4.0, 10_000, low: 7.0, high: 14.0, noise: 0.1, start: 0.5)
    [1.1, 2.3, 3.1].each { |at| ((at * 10_000).to_i..((at + 0.09) * 10_000).to_i).each { |i| values[i] = 0.0 } }
    expect(
      analysed(time_s, values, unit: "mA", sensor: "active").findings.map do |finding|
        [finding.kind, finding.details[:count]]
      end
    ).to eq([["dropouts", 3]])
  end

  it "counts the ring from three equal gaps, and believes no other three" do
    [[[], 44], [[1.9], nil]].each do |extra, seen|
      ring = ToneRing.new(44, missing: [10])
      time_s, values = ring.active(->(_) { 0.8 }, 3.9, 10_000, noise: 0.02, start: 0.5)
      extra.each { |at| ((at * 10_000).to_i..((at + 0.1) * 10_000).to_i).each { |i| values[i] = 0.8 } }
      expect(
        analysed(time_s, values, sensor: "active")
          .findings
          .find { |finding| finding.kind == "tooth_count_mismatch" }
          &.details
          &.fetch(:seen)
      ).to eq(seen)
    end
  end

  # WS-06: handbook: sampling theory, from memory: ten points a tooth; with seven it still works, with fewer than four
  # it says so.
  it "reads signals that were sampled coarsely, and says when it was too coarse" do
    [[12, 9], [8, 21], [7, 33]].each do |points, place|
      rate = (points * 1.5 * 48).round
      [CycleRing.new(48), CycleRing.new(48, missing: [place])].zip([[], ["missing_teeth"]])
        .each do |ring, kinds|
          %w[passive active].each do |sensor|
            expect(
              analysed(*ring.public_send(sensor, ->(_) { 1.5 }, 4.0, rate), sensor: sensor).findings.map(&:kind)
            ).to eq(kinds),
            "#{points} points, #{sensor}, #{kinds}"
          end
        end
    end
    expect(analysed(*CycleRing.new(48).passive(->(_) { 1.5 }, 4.0, 250), sensor: "passive").to_h).to include(
      verdict: "unreadable",
      note: /take 700 a second or more/
    )
  end

  it "finds the count by itself where nobody says it" do
    expect(
      analysed(*CycleRing.new(44, missing: [7]).passive(->(_) { 1.6 }, 4.0, 10_000), teeth: nil, sensor: nil).to_h
    ).to include(teeth: 44, findings: [include(kind: "missing_teeth", count: 1)])
  end

  it "cannot tell ring from wiring in less than two turns, and says so" do
    time_s, values = ToneRing.new(48, missing: [3]).passive(->(_) { 1.5 }, 1.0, 10_000, start: 0.5)
    analysis = analysed(time_s, values, sensor: "passive")
    expect([analysis.verdict, analysis.to_h[:note]]).to match(["unreadable", /at least 2 are needed/])
  end

  it "is not put out by the mains, nor by an offset" do
    time_s, values = ToneRing.new(48, missing: [9]).passive(->(_) { 1.7 }, 4.0, 10_000, volt: 0.6, start: 0.5)
    [50, 60].each do |hertz|
      hummed =
        values.each_with_index.map { |value, i| value + 1.3 + (0.4 * Math.sin(2 * Math::PI * hertz * time_s[i])) }
      expect(
        analysed(time_s, hummed, sensor: "passive").findings.map { |finding| [finding.kind, finding.details[:teeth]] }
      ).to eq([["missing_teeth", [9]]]),
      "#{hertz} Hz"
    end
  end

  it "finds out by itself whether the sensor has two levels" do
    expect(analysed(*ToneRing.new(48).passive(->(_) { 1.5 }, 2.0, 10_000), sensor: nil).sensor).to eq("passive")
    expect(analysed(*ToneRing.new(48).active(->(_) { 1.5 }, 2.0, 10_000), sensor: nil).sensor).to eq("active")
  end

  # SG-02: IEEE 1364, from memory: one gap of two periods.
  it "SG-02 reads the edges of a value change dump, with its gap" do
    head = "$timescale 1 us $end $scope module t $end $var wire 1 ! ws $end $upscope $end $enddefinitions $end\n"
    capture =
      Gadwall::Signals::VcdCapture.read(
        StringIO.new(
          "#{head}#0 1!\n#1446 0!\n#2892 1!\n#4338 0!\n#5784 1!\n#7230 0!\n#11568 1!\n#13014 0!\n#14460 1!\n"
        )
      ).only(nil)
    rising =
      capture
        .time_s
        .zip(capture.channels[0].values)
        .select { |_, value| value == 1.0 }
        .map { |time, _| (time * 1e6).round }
    expect(rising).to eq([0, 2892, 5784, 11_568, 14_460])
  end

  it "reads a ring with a missing tooth from a dump of edges" do
    edges =
      (0...(48 * 5)).reject { |k| k % 48 == 16 }.flat_map { |k| ["##{(k * 2892) + 10} 1!", "##{(k * 2892) + 1456} 0!"] }
    Dir.mktmpdir do |folder|
      path = File.join(folder, "a.vcd")
      File.write(
        path,
        "$timescale 1us $end\n$var wire 1 ! ws $end\n$var wire 1 \" other $end\n$enddefinitions $end\n$dumpvars x! " \
          "x\" $end\n#{edges.join("\n")}\n"
      )
      out = StringIO.new
      expect(
        Gadwall::CLI::Runner.new(out: out, err: StringIO.new).run(
          ["capture", path, "--signal", "wheel_speed", "--teeth", "48"]
        )
      ).to eq(0)
      expect(JSON.parse(out.string)).to include(
        "verdict" => "faulty",
        "channel" => "ws",
        "findings" => [include("kind" => "missing_teeth", "count" => 1, "teeth" => [17])]
      )
    end
  end
end

RSpec.describe Gadwall::Signals::CsvCapture do
  def read(text)
    described_class.read(StringIO.new(text))
  end

  {
    "units in brackets" => "Time (ms),CH1 (mV),CH2 (V)\n0,100,1\n1,200,2\n",
    "a row of units" => "Time,CH1,CH2\n(ms),(mV),(V)\n0,100,1\n1,200,2\n",
    "square brackets, byte-order mark, CRLF" => "\uFEFFTime [ms],CH1 [mV],CH2 [V]\r\n0,100,1\r\n1,200,2\r\n",
    "semicolons and decimal commas" => "Time (s);CH1 (V);CH2 (V)\n0,000;0,1;1\n0,001;0,2;2,0\n",
    "tabs, comments, blank lines" => "# a scope\nTime (us)\tCH1 (V)\tCH2 (V)\n\n0\t0.1\t1\n# here\n1000\t.2\t2.\n",
    "exponents" => "Time (s),CH1 (V),CH2 (V)\n0.0e0,1e-1,1\n1E-3,2.0E-01,+2\n",
    "quoted names" => "\"Time (ms)\",\"CH1 (mV)\",\"CH2 (V)\"\n0,100,1\n1,200,2\n"
  }.each do |name, text|
    it "reads #{name}" do
      capture = read(text)
      expect(capture.time_s).to match([be_within(1e-12).of(0), be_within(1e-9).of(0.001)])
      expect(
        capture.channels.map { |channel| [channel.name, channel.unit, channel.values.map { |value| value.round(9) }] }
      ).to eq([["CH1", "V", [0.1, 0.2]], ["CH2", "V", [1.0, 2.0]]])
    end
  end

  it "takes the end of a name for its unit where none stands" do
    capture = read("time_ms,coil_mV,pressure_bar,CH_A\n0,100,1,2\n500,200,2,3\n")
    expect([capture.time_s, capture.channels.map { |channel| [channel.unit, channel.values.last] }]).to eq(
      [[0.0, 0.5], [["V", 0.2], ["bar", 2.0], ["", 3.0]]]
    )
  end

  {
    "" => /line 1, column 1/,
    "Time,CH1\n" => /at least two rows/,
    "Time,CH1\n0,1\n1\n" => /line 3, column 2: '1' is not valid. Expected 2 cells/,
    "Time,CH1\n0,1\n1,x\n" => /line 3, column 3: 'x'.*a number/,
    "Time,CH1\n0,1\n1,2-3\n" => /line 3, column 3: '2-3'/,
    "Time,CH1\n0,1\n1,1.2.3\n" => /line 3, column 3: '1\.2\.3'/,
    "Time,CH1\n1,1\n0,2\n" => /line 3, column 1: '0'.*a time not before/,
    "Time;CH1\n0;1\n1;\n" => /line 3, column 3/
  }.each do |text, message|
    it "answers #{text.inspect} with one sentence that names line and column" do
      expect { read(text) }.to raise_error(Gadwall::InputError, message)
    end
  end

  it "bears 20 000 mutated captures and dumps: no error but its own" do
    random = Random.new(9)
    seeds = [
      "Time (ms),CH1 (mV)\n0,100\n1,200\n2,1e2\n",
      "Time;CH1\n0,0;1,5\n0,1;2,5\n",
      "$timescale 1 us $end $var wire 1 ! ws $end $enddefinitions $end\n#0 1!\n#10 0!\n#20 x!\nb101 !\n"
    ]
    20_000.times do |i|
      text = seeds[i % 3].dup
      random
        .rand(1..3)
        .times do
          text[random.rand(text.length)] = (
            if (i % 7).zero?
              random.rand(256).chr.force_encoding("UTF-8").scrub
            else
              "0123456789.,;-+e\t\n$#!xz ()"[random.rand(28)]
            end
          ).to_s
        end
      reads_or_says_where(text) do
        (i % 3 == 2 ? Gadwall::Signals::VcdCapture : described_class).read(StringIO.new(text))
      end
    end
  end
end
