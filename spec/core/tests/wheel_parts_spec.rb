# frozen_string_literal: true

require_relative "../../support/core/tone_ring"

# The parts of the wheel-speed analysis, each by itself, on numbers whose answer is known beforehand.
RSpec.describe Gadwall::Signals::ExpectedPeriod do
  it "expects the same where all are the same, whatever the three in question are" do
    periods = Array.new(11, 20.0).tap { |all| all[4..6] = [25.0, 60.0, 1.0] }
    expect(described_class.at(periods, 5)).to match([be_within(1e-9).of(20), be_within(1e-9).of(20)])
  end

  it "is not moved by steady acceleration" do
    periods = (0..10).map { |i| 20.0 + i }
    expect(described_class.at(periods, 5)).to match([be_within(1e-9).of(25), be_within(1e-9).of(25)])
  end

  it "follows a parabola exactly" do
    periods = (-5..5).map { |k| 30.0 - (0.1 * (k**2)) }
    expect(described_class.at(periods, 5)).to match([be_within(1e-9).of(30), be_within(1e-9).of(29.9)])
    steep = (-5..5).map { |k| 30.0 - (0.4 * (k**2)) }
    expect(described_class.at(steep, 5)).to match([be_within(1e-9).of(30), be_within(1e-9).of(29.6)])
  end

  it "does not let another gap nearby lift what it expects" do
    periods = Array.new(11, 20.0)
    periods[10] = 36.0
    expect(described_class.at(periods, 5).first).to be_within(0.5).of(20)
  end

  it "says nothing at the ends and beside a gap" do
    expect(described_class.at(Array.new(11, 20.0), 2)).to be_nil
    expect(described_class.at(Array.new(11, 20.0).tap { |periods| periods[7] = 40.0 }, 5)).to be_nil
    expect(described_class.at(Array.new(11, 20.0), 3)).to eq([20.0, 20.0])
  end
end

RSpec.describe Gadwall::Signals::Span do
  def noisy(random = Random.new(2))
    Array.new(20_000) { |i| yield(i) + (0.02 * (random.rand - 0.5)) }
  end

  def span(values)
    described_class.new(values, Gadwall::Signals::Edges.noise(values))
  end

  it "goes from level to level, spikes apart" do
    found = span(noisy { |i| ((i / 100).even? ? 1.0 : 2.0) + ((i % 5000).zero? ? 9 : 0) })
    expect([found.low, found.high]).to match([be_within(0.02).of(1), be_within(0.02).of(2)])
  end

  it "reaches to narrow pulses that come evenly, up or down" do
    [1, -1].each do |side|
      found = span(noisy { |i| 7.0 + ((i % 400) < 4 ? side * 7.0 : 0.0) })
      expect([found.low, found.high]).to match([7.0, 7.0 + (side * 7.0)].sort.map { |level| be_within(0.05).of(level) })
    end
  end

  it "takes neither a few spikes nor many uneven ones for a signal" do
    random = Random.new(9)
    at = Array.new(60) { random.rand(20_000) }.to_h { |i| [i, true] }
    [->(i) { (i % 4000).zero? ? 5.0 : 0.0 }, ->(i) { at[i] ? 5.0 : 0.0 }].each do |signal|
      found = span(noisy(&signal))
      expect(found.width).to be < 0.1
    end
  end
end

RSpec.describe Gadwall::Signals::Hum do
  let(:times) { (0...8000).map { |i| i / 4000.0 } }

  def sine(volt, hertz)
    times.map { |t| volt * Math.sin((2 * Math::PI * hertz * t) + 0.7) }
  end

  it "takes 50 and 60 Hz out beside the teeth, and leaves what stands alone at neither" do
    teeth = sine(1.0, 141)
    [50, 60].each do |hertz|
      left = described_class.removed(times, teeth.zip(sine(0.3, hertz)).map(&:sum))
      expect(left.zip(teeth).map { |a, b| (a - b).abs }.max).to be < 0.02
    end
    expect(described_class.removed(times, teeth)).to equal(teeth)
  end

  it "says when the mains are all there is" do
    hum = sine(0.4, 60)
    left = described_class.removed(times, hum)
    expect(described_class.all_of_it(times, hum, left, noise: false)).to eq(60.0)
    both = hum.zip(sine(1.0, 141)).map(&:sum)
    expect(described_class.all_of_it(times, both, described_class.removed(times, both), noise: false)).to be_nil
  end
end

RSpec.describe Gadwall::Signals::ToothFinder do
  def finder(values, sensor: nil)
    channel = Gadwall::Signals::Capture::Channel.new(name: "CH1", unit: "V", values: values)
    described_class.new(
      Gadwall::Signals::Capture.new((0...values.size).map { |i| i / 10_000.0 }, [channel]),
      channel,
      count: 48,
      sensor: sensor
    )
  end

  it "tells a coil from two levels by the shape alone" do
    ring = ToneRing.new(48)
    {
      "passive" => ring.passive(->(_) { 1.5 }, 2.0, 10_000, noise: 0.01),
      "active" => ring.active(->(_) { 1.5 }, 2.0, 10_000, noise: 0.02)
    }.each do |kind, (_, values)|
      expect(finder(values).sensor).to eq(kind)
      expect(finder(values).passages.size).to be_within(2).of(144)
    end
  end

  it "gives the same train for the same count" do
    _, values = ToneRing.new(48).active(->(_) { 1.5 }, 2.0, 10_000)
    teeth = finder(values)
    expect(teeth.train(48)).to equal(teeth.train(48))
    expect(teeth.train(44).revolutions).to be_within(0.01).of(teeth.train(48).revolutions * 48 / 44)
  end
end

RSpec.describe Gadwall::Signals::LiveSwitch do
  # One row a tenth of a second; pressure and switch by row.
  def judged(rows: 300, rest_bar: 0.0)
    pressure = Array.new(rows) { |i| yield(i).first }
    switch = Array.new(rows) { |i| yield(i).last }
    text =
      "time,brake switch,brake " \
        "pressure\n#{
          pressure
            .zip(switch)
            .each_with_index
            .map { |(bar, on), i| "#{i / 10.0},#{on ? "on" : "off"},#{bar}" }
            .join("\n")
        }\n"
    described_class.new(
      Gadwall::Signals::LiveLog.read(StringIO.new(text)),
      Gadwall::Knowledge.catalogue.signal,
      rest_bar: rest_bar
    )
  end

  def kinds(found)
    found.findings.map { |row| row.values_at(:kind, :count).compact }
  end

  it "finds nothing in a switch that follows the foot, even one that comes on before the pressure" do
    found = judged { |i| [i.between?(150, 200) ? 25 : 0, i.between?(147, 204)] }
    expect([kinds(found), found.judged]).to eq([[], %w[held released]])
  end

  it "counts how often it lets go, and where nobody braked says nothing of it" do
    expect(
      kinds(
        judged do |i|
          [i.between?(150, 220) ? 25 : 0, i.between?(150, 220) && !i.between?(170, 172) && !i.between?(190, 195)]
        end
      )
    ).to eq([["switch_drops_out", 2]])
    expect(judged { |_| [0, false] }.judged).to eq(["released"])
  end

  it "tells never on from letting go, and never off from a foot that rests on the pedal" do
    expect(kinds(judged { |i| [i.between?(150, 200) || i.between?(230, 260) ? 25 : 0, false] })).to eq(
      [["switch_stays_off", 2]]
    )
    expect(kinds(judged { |i| [i.between?(150, 200) ? 25 : 0, true] })).to eq([["switch_stays_on"]])
    expect(kinds(judged { |i| [i.between?(150, 200) ? 25 : 0, i > 60] })).to eq([])
  end

  it "allows for a pressure sensor that is off zero" do
    found = judged(rest_bar: 7.0) { |i| [(i.between?(150, 200) ? 25 : 0) + 7, i.between?(150, 200)] }
    expect([kinds(found), found.judged]).to eq([[], %w[held released]])
  end
end
