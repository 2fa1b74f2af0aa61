# frozen_string_literal: true

require "spec_helper"

# What modules of the simulated vehicle show while it stands, drives, turns and is fed: wheel speeds from pulses, volts
# at their own connectors.
RSpec.describe Gadwall::Simulator::LiveValues do
  sheet = { "name" => "Kestrel", "stability" => "yes" }
  corners = %w[front_left front_right rear_left rear_right]
  vehicle = ->(*faults, **more) do
    Gadwall::Simulator::VehicleUnderTest.new(sheet.merge(more.transform_keys(&:to_s)), faults: faults, seed: 5)
  end
  row = ->(id) { Gadwall::Knowledge.catalogue.data_identifiers.fetch(id) }
  shown = ->(car, id, ecu = "abs") { car.live(row[id], car.ecu(ecu)) }
  # Twenty readings within a turn of the wheel at 30 km/h.
  turn = ->(car, corner) { Array.new(40) { shown[car.tap { |each| each.wait(0.0117) }, "wheel_#{corner}"] } }
  driving = ->(car, speed = 30.0) { car.set(key: "ready", gear: "drive", speed_km_h: speed) }

  it "drives where the vehicle drives: all wheels alike but for noise, none while it stands" do
    car = driving[vehicle[]]
    speeds = corners.map { |corner| shown[car, "wheel_#{corner}"] }
    expect(speeds).to all(be_within(0.6).of(30.0))
    expect(speeds.uniq.size).to eq(4)
    car.set(speed_km_h: 0.0)
    expect(corners.map { |corner| shown[car, "wheel_#{corner}"] }.uniq).to eq([0.0])
  end

  # common practice: what each trouble looks like in live data
  {
    "front_left.sensor.open" => ->(speeds) { speeds.max.zero? },
    "front_left.ring.tooth_lost" => ->(speeds) { speeds.min < 20 && speeds.count { |each| each > 28 } > 30 },
    "front_left.ring.wrong_count" => ->(speeds) { speeds.max - speeds.min < 2 && ((speeds.sum / 40) - 30).abs > 1 },
    "front_left.tyre.odd" => ->(speeds) { speeds.max - speeds.min < 2 && ((speeds.sum / 40) - 30).abs > 0.4 }
  }.each do |fault, looks|
    it "shows #{fault} as a technician would see it" do
      known = vehicle[].system.circuit_named("front_left").model.faults.map { |each| "front_left.#{each.id}" }
      expect(known).to include(fault)
      speeds = turn[driving[vehicle[fault]], "front_left"]
      expect(looks[speeds]).to be(true), speeds.map { |each| each.round(1) }.inspect
      expect(turn[driving[vehicle[fault]], "rear_right"]).to all(be_within(0.6).of(30.0))
    end
  end

  it "turns slower inside a bend, and yaws to that side" do
    car = driving[vehicle[]].set(steering_deg: 180.0)
    expect(shown[car, "wheel_front_left"]).to be < shown[car, "wheel_front_right"] - 1
    expect(shown[car, "yaw_rate"]).to be > 5
  end

  it "shows the volts at the module's own connector, which follow battery, engine, support and charge" do
    sound = vehicle[].set(key: "on")
    at_rest = shown[sound, "system_voltage"]
    poor = vehicle["abs_module.supply_plug.feed.high_resistance@2"].set(key: "on")
    expect(shown[poor, "system_voltage"]).to be < at_rest - 0.3
    expect(shown[sound.set(key: "ready"), "system_voltage"]).to be > at_rest + 1
    expect(shown[sound.set(key: "on", support: true), "system_voltage"]).to be_between(at_rest + 0.5, 13.8)
  end

  it "has modules drop out as the battery empties" do
    car = vehicle[].set(key: "on")
    expect(car.speaking.map(&:id)).to include("abs")
    volts =
      [0.5, 0.1, 0.05, 0.02].map do |charge|
        car.set(battery_as: Gadwall::Simulator::VehicleState::FULL_AS * charge)
        [shown[car, "system_voltage"], car.silent?("abs")]
      end
    expect(volts.map(&:first)).to eq(volts.map(&:first).sort.reverse)
    expect(volts.map(&:last)).to eq([false, false, true, true]) # at 9 V (common practice)
  end
end
