# frozen_string_literal: true

require "spec_helper"

# What a test takes, as it is at the vehicle (common practice).
RSpec.describe "Minutes of tests" do
  def minutes(sheet, circuit, id)
    system =
      Gadwall::Vehicle::System.build(Gadwall::Vehicle::Sheet.new({ "name" => "x", **sheet }), models: CoreHelp::MODELS)
    test = system.circuit_named(circuit).model.tests.fetch(id)
    test.minutes + test.access.sum(&:last)
  end

  it "count a lorry's wheel as 20 to 40, a car's as ten at most" do
    wheel = ->(volts) { minutes({ "sensors" => "active", "system_voltage" => volts }, "front_left", "live_spin") }
    expect(wheel.call("24") - wheel.call("12")).to be_between(15, 35)
  end

  it "count drawing fluid off, and cables moved by hand" do
    expect(minutes({ "sensors" => "active", "fluid_level" => "closes" }, "fluid_level", "float_down")).to be >= 15
    pulled = { "sensors" => "active", "park_brake" => "cable_puller" }
    expect(minutes(pulled, "park_brake_unit", "cable_by_hand")).to be_between(15, 40)
  end
end
