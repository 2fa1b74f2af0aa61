# frozen_string_literal: true

require "yaml"

# Numbers from published handbooks and standards, row by row (spec/cases/reference_values.yml names each source).
RSpec.describe "Reference values" do
  costs = Gadwall::Decision::Costs
  wheel = Gadwall::Quantity::WheelGeometry
  meter =
    lambda do |percent, digits, step|
      Gadwall::Quantity::Meter.new(unit: "V", percent: percent, digits: digits, resolutions: [[1e9, step]])
    end
  kinematics = Gadwall::Signals::Kinematics
  gas = Gadwall::Signals::Gas
  pump = ->(run, rest) { Gadwall::Signals::PumpCycle.new(run_s: run, rest_s: rest) }
  circle = ->(radius, base, track) { kinematics.circles(radius, wheelbase_m: base, track_m: track) }
  four = ->(replace, test, other, p) { { replace: replace, test: test, other: other, p: p } }
  calls = {
    "resistivity" => -> { 1 / 58.0 },
    "wire_ohm_per_m" => ->(size) { Gadwall::Knowledge.catalogue.wire_ohm_per_m(size) },
    "drop" => ->(size, metres, ampere) { Gadwall::Knowledge.catalogue.wire_ohm_per_m(size) * metres * ampere },
    "band" => ->(value, percent, digits, step) { meter.call(percent, digits, step).error_band(value) },
    "shunt_volts" =>
      lambda do |ampere|
        Gadwall::Knowledge.catalogue.circuits["wheel_speed_active"]["values"]["shunt_ohm"]["value"] * ampere
      end,
    "diameter" => ->(tyre) { wheel.outside_diameter_mm(tyre) },
    "circumference_mm" => ->(tyre) { wheel.circumference_m(tyre) * 1000 },
    "frequency" =>
      lambda do |speed, circumference, teeth|
        wheel.frequency_hz(speed_km_h: speed, circumference_m: circumference, teeth: teeth)
      end,
    "replace_now" => ->(*figures) { costs.replace_now(**four.call(*figures)) },
    "test_first" => ->(*figures) { costs.test_first(**four.call(*figures)) },
    "break_even" => ->(replace, test) { costs.break_even(replace: replace, test: test) },
    "sample_rate" =>
      lambda do |speed, circumference, teeth|
        wheel.sample_rate(wheel.frequency_hz(speed_km_h: speed, circumference_m: circumference, teeth: teeth))
      end,
    "instant_percent" =>
      lambda do |gap|
        (1 - Gadwall::Signals::LowSpeedDip.new(gap: gap, teeth: 48, circumference_m: 1.9276).dip(5.0)) * 100
      end,
    "teeth_by_speed" =>
      lambda do |speed, frequency, circumference|
        wheel.teeth(frequency_hz: frequency, speed_km_h: speed, circumference_m: circumference)
      end,
    "slip_percent" => ->(vehicle, rolling) { kinematics.slip(vehicle, rolling) * 100 },
    "yaw_of_wheels" => ->(left, right, track) { kinematics.yaw_of_wheels(left / 3.6, right / 3.6, track_m: track) },
    "radius" => ->(speed, yaw) { kinematics.radius(speed / 3.6, yaw) },
    "lateral" => ->(speed, yaw) { kinematics.lateral(speed / 3.6, yaw) },
    "circle" => ->(radius, base, track, what) { circle.call(radius, base, track).fetch(what.to_sym) },
    "steering_wheel" => ->(radius, base, track, ratio) { circle.call(radius, base, track)[:mean_deg] * ratio },
    "path" => ->(radius, base, track, axle, side) { circle.call(radius, base, track).fetch(axle.to_sym)[side] },
    "yaw_of_steering_rad" =>
      lambda do |speed, road, base, characteristic|
        kinematics.yaw_of_steering(speed, road, wheelbase_m: base, ratio: 1.0, characteristic_m_s: characteristic) /
          kinematics::DEGREES
      end,
    "gas_ml" =>
      lambda do |bar, shell, precharge, exponent|
        gas.volume_ml(bar, shell_ml: shell, precharge_bar: precharge, exponent: exponent)
      end,
    "precharge" => ->(bar, volume, shell) { gas.precharge_bar(bar, volume, shell_ml: shell) },
    "pump_duty" => ->(run, rest) { pump.call(run, rest).duty_cycle },
    "pump_leak" => ->(run, rest) { pump.call(run, rest).leak_ml_s },
    "pump_fluid" => ->(run, rest) { pump.call(run, rest).fluid_ml },
    "group" => ->(id) { Gadwall::Protocols::Heavy.group(id) },
    "axle_km_h" => ->(*bytes) { Gadwall::Protocols::WheelMessage.decode(bytes + ([0xFF] * 6)).first },
    "wheel_km_h" =>
      lambda { |byte| Gadwall::Protocols::WheelMessage.decode([0, 0, byte] + ([0xFF] * 5)).last.fetch("front_left") },
    "vin_sum" => ->(text) { Gadwall::Vehicle::VIN.weighted_sum(text) }
  }

  YAML
    .safe_load_file(File.expand_path("../../cases/reference_values.yml", __dir__))
    .each do |row|
      it "#{row["id"]} #{row["call"]} #{(row["args"] || []).join(" ")} is #{row["expect"]} (#{row["source"]})" do
        expect(calls.fetch(row["call"]).call(*row["args"])).to be_within(row["slack"] + 1e-9).of(row["expect"])
      end
    end

  it "VN-02 tells a right check digit from a wrong one, and refuses no form but a wrong one" do
    expect(Gadwall::Vehicle::VIN.check_digit_right?("1M8GDM9AXKP042788")).to be(true)
    expect(Gadwall::Vehicle::VIN.check_digit("1M8GDM9AXKP047288")).to eq("4")
    expect(Gadwall::Vehicle::VIN.well_formed?("1M8GDM9AXKPO42788")).to be(false)
  end

  # SE-05 to SE-08: handbook: active sensor data sheets, from memory. Read off the solved circuit, not off a table.
  describe "the active sensor's circuit" do
    let(:line) { system_with("active").circuits.first.harness }
    let(:reader) { Gadwall::Circuits::Reader.new(line, Gadwall::Circuits::Harness::State.of(key: "on")) }
    let(:signal) { Gadwall::Circuits::WheelSignal.new(line) }

    def connector(ohm)
      Gadwall::Circuits::Condition.new(series: { "feed@body_connector" => ohm })
    end

    it "SE-05/06 shows 0.805 V and 1.610 V at the shunt" do
      expect(
        line.sink_levels.map do |ampere|
          reader.read("volts", %w[return@near_end ground], Gadwall::Circuits::Condition::SOUND, ampere: ampere).round(3)
        end
      ).to eq([0.805, 1.61])
    end

    it "SE-08 lives with a connector of 200 ohm and dies with one of 2 kohm" do
      expect(signal.at_module(connector(200))).to eq("even")
      expect(signal.at_module(connector(2000))).to eq("none")
    end

    it "SE-07 reads 0 mA when it is open" do
      dead =
        Gadwall::Circuits::Effect.condition(
          line,
          Gadwall::Circuits::FaultList.for(line, catalogue).find { |fault| fault.id == "sensor.open" },
          2e8
        )
      expect(
        reader.read("amperes", %w[feed@body_connector.near feed@body_connector.far], dead, ampere: 0.014)
      ).to be_within(1e-6).of(0)
    end
  end

  # SE-01, SE-02: common practice.
  it "SE-01/02 shows the coil's resistance and 0.25 V at the plug of a passive sensor, and less through a bad " \
       "connector" do
    line = system_with("passive").circuits.first.harness
    still = Gadwall::Circuits::Reader.new(line, Gadwall::Circuits::Harness::State.of(disconnected: ["sensor_plug"]))
    expect(
      still.read("ohms", %w[signal@sensor_plug.far return@sensor_plug.far], Gadwall::Circuits::Condition::SOUND)
    ).to be_within(0.01).of(1100)
    spinning = Gadwall::Circuits::Harness::State.of(disconnected: ["module_plug"], spin: true)
    expect(
      Gadwall::Circuits::Reader
        .new(line, spinning)
        .read("volts", %w[signal@module_plug.far return@module_plug.far], Gadwall::Circuits::Condition::SOUND)
        .abs
    ).to be_within(0.001).of(0.25)
    expect(
      Gadwall::Circuits::WheelSignal.new(line).at_module(
        Gadwall::Circuits::Condition.new(series: { "signal@sensor_plug" => 1e6 })
      )
    ).to eq("none")
  end
end
