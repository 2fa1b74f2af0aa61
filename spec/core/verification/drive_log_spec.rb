# frozen_string_literal: true

require "spec_helper"
require "stringio"

# Legs of a proof drive as a log of live data shows them: logs made here from kinematics, never by asking the analysis.
RSpec.describe Gadwall::Verification::DriveLog do
  def leg(kind, **asked)
    title = catalogue.drive_legs.dig(kind, "title")
    Gadwall::Repair::DriveLegs::Leg.new(id: kind, leg: kind, title: title, proves: ["a monitor"], lift: false, **asked)
  end

  def catalogue
    Gadwall::Knowledge.catalogue
  end

  # parts: [[seconds, km/h at the end, deg/s], ...], the speed growing evenly within each. hertz: rows a second.
  def log(parts, hertz: 10, yaw: true, wheels: %w[FL FR RL RR], pause: nil)
    text = "Time (s),#{wheels.map { |wheel| "Wheel speed #{wheel} (km/h)" }.join(",")}"
    text << ",Yaw rate (deg/s)" if yaw
    at = 0.0
    speed = 0.0
    parts.each_with_index do |(seconds, to, rate), i|
      rows = (seconds * hertz).round
      rows.times do |k|
        v = speed + ((to - speed) * (k + 1) / rows)
        cells = wheels.map { |wheel| v + ((wheel.end_with?("R") ? 1 : -1) * rate.to_f * Math::PI / 180 * 0.75 * 3.6) }
        text << "\n#{(at += 1.0 / hertz).round(4)},#{
          [*cells, *(rate.to_f if yaw)].map { |each| each.round(3) }.join(",")
        }"
      end
      speed = to
      at += pause if pause && i.zero?
    end
    Gadwall::Signals::LiveLog.read(StringIO.new("#{text}\n"))
  end

  def shown(leg, parts, **more)
    described_class.new(log(parts, **more)).of(leg)
  end

  straight = [[5, 0], [10, 36], [100, 36], [10, 0]].freeze # 36 km/h for 100 s is 1000 m

  it "counts the metres in the range of the leg alone" do
    road = leg("straight", speed_km_h: [30, 60], distance_m: 1000)
    expect(shown(road, straight)).to have_attributes(driven: true, said: %r{\A10\d\d of 1000 m at 30 to 60 km/h\z})
    expect(shown(leg("straight", speed_km_h: [40, 60], distance_m: 1000), straight)).to have_attributes(
      driven: false,
      said: "0 of 1000 m at 40 to 60 km/h"
    )
  end

  it "agrees with the distance of uniform motion, whatever the rows a second" do
    [1, 2, 5, 10, 20, 50].each do |hertz|
      said = shown(leg("straight", speed_km_h: [35, 37], distance_m: 900), straight, hertz: hertz).said
      expect(said[/\A\d+/].to_i).to be_within(25).of(1000)
    end
  end

  it "knows nothing of what was driven in a pause of the log" do
    road = leg("straight", speed_km_h: [15, 60], distance_m: 300)
    expect(shown(road, [[10, 36], [10, 36]], pause: 60).said[/\A\d+/].to_i).to be < 200
  end

  it "counts stops out of a movement, none for a vehicle that only stood or crept" do
    stops = leg("rollouts", speed_km_h: [0, 20], stops: 3)
    one = [[5, 20], [5, 0], [3, 0]]
    expect(shown(stops, one * 3)).to have_attributes(driven: true, said: "3 of 3 stops")
    expect(shown(stops, one * 2)).to have_attributes(driven: false, said: "2 of 3 stops")
    expect(shown(stops, [[30, 0]])).to have_attributes(driven: false, said: "0 of 3 stops")
    expect(shown(stops, [[5, 2], [5, 0], [3, 0]] * 3).said).to eq("0 of 3 stops")
  end

  it "asks for bends both ways, by yaw rate or by the wheels of an axle" do
    bends = leg("bends")
    [true, false].each do |yaw|
      both = [[5, 20], [10, 20, 12], [10, 20, -12], [5, 0]]
      expect(shown(bends, both, yaw: yaw)).to have_attributes(driven: true, said: "bends left and right")
      expect(shown(bends, both.reject { |row| row[2] == -12 }, yaw: yaw).said).to eq("bends left")
      expect(shown(bends, straight, yaw: yaw)).to have_attributes(driven: false, said: "no bend")
    end
  end

  it "takes a hard stop for one from 6 m/s2 on" do
    stop = leg("hard_stop")
    expect(shown(stop, [[20, 54], [2, 0], [3, 0]]).driven).to be(true) # 7.5 m/s2
    expect(shown(stop, [[20, 54], [5, 0], [3, 0]]).driven).to be(false) # 3 m/s2
  end

  it "says nothing of a leg that only eyes can tell, nor of any without wheel speeds" do
    expect(shown(leg("key_on", seconds: 5), straight)).to be_nil
    log = Gadwall::Signals::LiveLog.read(StringIO.new("Time (s),Supply voltage (V)\n0,13\n1,13\n"))
    expect(described_class.new(log).of(leg("straight", speed_km_h: [15, 60], distance_m: 10))).to be_nil
  end

  it "never counts more than was driven, over seeded drives" do
    40.times do |seed|
      random = Random.new(seed)
      parts = Array.new(8) { [random.rand(2..20), random.rand(0..70), [0, 10, -10].sample(random: random)] }
      low = random.rand(0..40)
      road = leg("straight", speed_km_h: [low, low + 20], distance_m: 100_000)
      speed = 0.0
      driven = parts.sum { |seconds, to, _| ((speed + to) / 2 / 3.6 * seconds).tap { speed = to } }
      expect(shown(road, parts).said[/\A\d+/].to_i).to be <= (driven * 1.02) + 5
    end
  end
end
