# frozen_string_literal: true

require "json"
require "stringio"
require "tmpdir"

# Live data, motor current and pump pressure: made here from vehicle kinematics and gas laws, not by inverting the
# analysis.
RSpec.describe Gadwall::Signals::LiveData do
  kinematics = Gadwall::Signals::Kinematics

  # A drive: standing, straight, a left bend, straight again, at 10 rows a second. Returns rows of {name => value}.
  def drive(random = Random.new(1))
    (0...400).map do |i|
      t = i / 10.0
      v =
        if t < 4
          0.0
        else
          t < 10 ? (t - 4) * 2.5 : 15.0
        end
      yaw = t.between?(18, 30) ? 14.0 : 0.0
      rate = yaw / Gadwall::Signals::Kinematics::DEGREES
      steer =
        if v.positive?
          Math.atan(rate * 2.7 * (1 + ((v / 22.0)**2)) / v) * Gadwall::Signals::Kinematics::DEGREES * 15.5
        else
          0.0
        end
      noise = ->(size) { (random.rand - 0.5) * size }
      left = v - (rate * 1.55 / 2)
      right = v + (rate * 1.55 / 2)
      moving = ->(speed) { speed.zero? ? 0.0 : (speed * 3.6) + noise.call(0.2) }
      {
        "Time (s)" => t,
        "Wheel speed FL (km/h)" => moving.call(left * 1.004),
        "Wheel speed FR (km/h)" => moving.call(right * 1.004),
        "Wheel speed RL (km/h)" => moving.call(left),
        "Wheel speed RR (km/h)" => moving.call(right),
        "Brake switch" => t.between?(33, 38) ? "ON" : "OFF",
        "Brake pressure (bar)" => (t.between?(33, 38) ? 30.0 : 0.2) + noise.call(0.2),
        "Steering angle (deg)" => steer + noise.call(1),
        "Yaw rate (deg/s)" => yaw + noise.call(0.5),
        "Lateral acceleration (m/s2)" => (v * rate) + noise.call(0.1),
        "Supply voltage (V)" => 13.8 + noise.call(0.1)
      }
    end
  end

  def analysed(rows, mapping: {})
    text =
      "#{rows.first.keys.join(",")}\n#{
        rows.map { |row| row.values.map { |value| value.is_a?(Float) ? value.round(3) : value }.join(",") }.join("\n")
      }\n"
    described_class.new(Gadwall::Signals::LiveLog.read(StringIO.new(text), mapping: mapping))
  end

  def changed
    drive.tap { |rows| rows.each_with_index { |row, i| yield(row, i / 10.0) } }
  end

  def kinds(analysis)
    analysis.findings.map { |finding| finding[:kind] }
  end

  it "finds nothing in a sound drive, and knows every column" do
    analysis = analysed(drive)
    expect(kinds(analysis)).to eq([])
    expect(analysis.log.matches.values.compact).to match_array(
      %w[
        wheel_front_left
        wheel_front_right
        wheel_rear_left
        wheel_rear_right
        brake_switch
        pressure
        steering_angle
        yaw_rate
        lateral_acceleration
        system_voltage
      ]
    )
  end

  {
    "a dead wheel" => ["wheel_reads_zero", { wheel: "rear left" }, ->(row, _) { row["Wheel speed RL (km/h)"] = 0.0 }],
    "a wheel that drops out" => [
      "wheel_drops_out",
      { wheel: "front right", count: 2 },
      ->(row, t) { row["Wheel speed FR (km/h)"] = 0.0 if t.between?(13, 13.25) || t.between?(24, 24.25) }
    ],
    "a wrong ring" => [
      "wheel_reads_off",
      { wheel: "front left" },
      ->(row, _) { row["Wheel speed FL (km/h)"] *= 44 / 48.0 }
    ],
    "a wrong ring in the rear" => [
      "wheel_reads_off",
      { wheel: "rear right" },
      ->(row, _) { row["Wheel speed RR (km/h)"] *= 44 / 48.0 }
    ],
    "a brake switch that lets go under the foot" => [
      "switch_drops_out",
      { count: 2 },
      ->(row, t) { row["Brake switch"] = "OFF" if t.between?(34.5, 34.75) || t.between?(36, 36.2) }
    ],
    "a brake switch that never comes on" => [
      "switch_stays_off",
      { count: 1 },
      ->(row, _) { row["Brake switch"] = "OFF" }
    ],
    "a brake switch that never goes off" => ["switch_stays_on", {}, ->(row, _) { row["Brake switch"] = "ON" }],
    "a pressure sensor off zero" => [
      "offset_at_rest",
      { parameter: "pressure" },
      ->(row, _) { row["Brake pressure (bar)"] += 6 }
    ],
    "a voltage dip" => [
      "voltage_dip",
      { count: 1 },
      ->(row, t) { row["Supply voltage (V)"] = 8.9 if t.between?(5, 5.5) }
    ],
    "a yaw sensor that lies in bends" => [
      "disagrees",
      { parameter: "yaw_rate" },
      ->(row, _) { row["Yaw rate (deg/s)"] *= 0.4 }
    ],
    "a steering angle off its centre" => [
      "disagrees",
      { parameter: "steering_angle" },
      ->(row, t) { row["Steering angle (deg)"] += 70 if t > 4 }
    ]
  }.each do |name, (kind, details, change)|
    it "finds #{name}" do
      analysis = analysed(changed(&change))
      expect(kinds(analysis)).to eq([kind]) # told once, not again by what follows from it
      found = analysis.findings.first
      expect(found).to include(details), kinds(analysis).inspect
    end
  end

  # WS-11: handbook: wheel-speed sensing, from memory: 44 teeth where 48 are expected read 8.33 percent low.
  it "WS-11 gives the ratio of a wrong ring" do
    analysis = analysed(changed { |row, _| row["Wheel speed FL (km/h)"] *= 44 / 48.0 })
    expect(analysis.findings.first[:ratio]).to be_within(0.01).of(0.9167)
  end

  it "says what else happened when a wheel dropped out" do
    analysis = analysed(changed { |row, t| row["Wheel speed RR (km/h)"] = 0.0 if t.between?(24, 24.25) })
    expect(analysis.findings.first[:at].first[:with]).to include("turning")
  end

  it "says what a wheel's drop-outs have in common, and where on the wheel they come" do
    rows =
      (0...600).map do |i|
        {
          "Time (s)" => i * 0.02,
          "Wheel speed FL (km/h)" => 9.0,
          "Wheel speed FR (km/h)" => 9.0,
          "Wheel speed RL (km/h)" => 9.0,
          "Wheel speed RR (km/h)" => 9.0
        }
      end
    turn_s = 1.9276 / 2.5
    rows.each { |row| row["Wheel speed RR (km/h)"] = 0.0 if (row["Time (s)"] % turn_s).between?(0.3, 0.35) }
    log =
      Gadwall::Signals::LiveLog.read(
        StringIO.new("#{rows.first.keys.join(",")}\n#{rows.map { |row| row.values.join(",") }.join("\n")}\n")
      )
    found = described_class.new(log, circumference_m: 1.9276).findings.first
    expect(found[:text]).to match(/drops out \d+ times, at the same place of the wheel\./)
    expect(found[:at].map { |each| each[:turn] }).to all(be_within(0.05).of(0.3 / turn_s))
    bumpy =
      analysed(
        changed do |row, t|
          (row["Wheel speed RR (km/h)"] = 0.0) && (row["Lateral acceleration (m/s2)"] += 4) if t.between?(24, 24.1) ||
            t.between?(14, 14.1)
        end
      )
    expect(bumpy.findings.first[:text]).to include("2 times, over a bump")
  end

  it "finds a wheel that starts late, and up to which speed it is lost" do
    analysis = analysed(changed { |row, t| row["Wheel speed RL (km/h)"] = 0.0 if t < 5.6 })
    found = analysis.findings.first
    expect(found).to include(kind: "wheel_starts_late", wheel: "rear left", count: 1)
    expect(found[:from_km_h]).to be_within(1.5).of(1.5 * 2.5 * 3.6)
    expect(analysis.marks.first).to eq(kind: "wheel_starts_late", at_s: [4.1])
  end

  # KI-05: common practice: steering within 5 degrees straight ahead; yaw within 3 degrees a second.
  it "says by how much a sensor is off zero, in its own unit" do
    {
      "Steering angle (deg)" => ["steering_angle", 70.0, 6.0],
      "Yaw rate (deg/s)" => ["yaw_rate", 9.0, 1.0],
      "Lateral acceleration (m/s2)" => ["lateral_acceleration", 3.0, 0.4]
    }.each do |column, (id, off, within)|
      found =
        analysed(changed { |row, t| row[column] += off if t > 6 }).findings.find { |row| row[:kind] == "disagrees" }
      expect(found).to include(parameter: id), column
      expect(found[:off_zero]).to be_within(within).of(off)
    end
  end

  it "finds a steering angle off its centre where there is no bend at all" do
    straight = drive.first(170).each { |row| row["Steering angle (deg)"] += 11 }
    expect(analysed(straight).findings).to match(
      [include(kind: "disagrees", parameter: "steering_angle", off_zero: be_within(1).of(11))]
    )
    expect(analysed(drive.first(170)).findings).to eq([])
  end

  describe "park brake and pump" do
    def log(columns)
      rows = (0...1200).map { |i| [i / 10.0, *columns.values.map { |value| value.call(i / 10.0) }] }
      described_class.new(
        Gadwall::Signals::LiveLog.read(
          StringIO.new("Time (s),#{columns.keys.join(",")}\n#{rows.map { |row| row.join(",") }.join("\n")}\n")
        )
      )
    end

    stroke = ->(amps) { ->(t) { t.between?(10, 12) || t.between?(40, 42) ? amps : 0.0 } }

    it "counts the strokes of each motor, and sets left against right" do
      analysis =
        log(
          "EPB left current (A)" => stroke.call(14.0),
          "EPB right current (A)" => stroke.call(6.0),
          "EPB state" => ->(t) { t.between?(12, 40) ? "applied" : "released" }
        )
      expect(analysis.to_h[:park_brake]).to match(
        "left" => {
          strokes: 2,
          most_a: 14.0,
          longest_s: be_within(0.11).of(2)
        },
        "right" => include(strokes: 2, most_a: 6.0)
      )
      expect(analysis.findings).to match([include(kind: "park_brake_sides_differ", left_a: 14.0, right_a: 6.0)])
    end

    it "finds the motor that draws nothing while the brake is driven" do
      expect(
        log("EPB left current (A)" => stroke.call(14.0), "EPB right current (A)" => ->(_) { 0.0 }).findings
      ).to match([include(kind: "park_brake_no_current", side: "right")])
      expect(
        log(
          "Park brake current (A)" => ->(_) { 0.1 },
          "Park brake state" => ->(t) { t > 20 ? "APPLIED" : "RELEASED" }
        ).findings
      ).to match([include(kind: "park_brake_no_current", side: "motor")])
      expect(
        log(
          "Park brake current (A)" => stroke.call(12.0),
          "Park brake state" => ->(t) { t > 12 ? "APPLIED" : "RELEASED" }
        ).findings
      ).to eq([])
    end

    it "finds the pump that does not stop" do
      expect(log("Pump" => ->(t) { t.between?(5, 90) ? "on" : "off" }).findings).to match(
        [include(kind: "pump_runs_on", longest_s: be_within(0.2).of(85))]
      )
      analysis = log("Pump" => ->(t) { (t % 40) < 6 ? "on" : "off" })
      expect([analysis.findings, analysis.to_h[:pump][:runs]]).to eq([[], 3])
    end
  end

  {
    "WSS_FL" => "wheel_front_left",
    "ABS Wheel Speed Left Front (mph)" => "wheel_front_left",
    "RF wheel speed" => "wheel_front_right",
    "Wheel speed sensor, rear right" => "wheel_rear_right",
    "Speed rear-left wheel [km/h]" => "wheel_rear_left",
    "Stop lamp switch" => "brake_switch",
    "Brake pedal pressed" => "brake_switch",
    "BLS" => "brake_switch",
    "Master cylinder pressure (kPa)" => "pressure",
    "Steering wheel angle" => "steering_angle",
    "Yaw_rate" => "yaw_rate",
    "Lateral G (g)" => "lateral_acceleration",
    "Battery voltage" => "system_voltage",
    "ABS pump" => "pump_state",
    "EPB current left (A)" => "park_brake_current_left",
    "Right caliper motor current" => "park_brake_current_right",
    "Park brake state" => "park_brake_state",
    "ws_rl_kmh" => "wheel_rear_left",
    "WheelSpeedFL" => "wheel_front_left",
    "vRR [km/h]" => "wheel_rear_right",
    "whl_spd_fr" => "wheel_front_right",
    "brake_sw" => "brake_switch",
    "Brake pedal" => "brake_switch",
    "SAS angle" => "steering_angle",
    "steer_angle_deg" => "steering_angle",
    "LatAcc" => "lateral_acceleration",
    "ubatt_v" => "system_voltage",
    "EPBCurrentLeft" => "park_brake_current_left",
    "brake_pres_bar" => "pressure",
    "Brake pedal travel" => nil,
    "Vacuum sensor" => nil,
    "Outside temp" => nil,
    "Gear lever" => nil,
    "Accelerator pedal position" => nil,
    "Longitudinal acceleration (g)" => nil,
    "Tyre pressure FL (bar)" => nil,
    "Sensor supply voltage (V)" => nil,
    "Engine speed (rpm)" => nil,
    "Steering torque" => nil,
    "Wheel slip FL" => nil,
    "Motor temperature" => nil
  }.each do |name, parameter|
    it "takes the column '#{name}' for #{parameter || "nothing"}" do
      expect(Gadwall::Signals::LiveLog.read(StringIO.new("Time (s);#{name}\n0;1\n1;1\n")).matches.values.last).to eq(
        parameter
      )
    end
  end

  it "takes units from a row below the names, and a parameter for one column only" do
    log =
      Gadwall::Signals::LiveLog.read(
        StringIO.new("Time;Speed FL;Lateral;Sensor 7\r\n(ms);(mph);(g);()\r\n\r\n0;10;0,1;1\r\n500;20;0,2;2\r\n"),
        mapping: {
          "Sensor 7" => "wheel_front_left"
        }
      )
    expect([log.time_s, log.values["lateral_acceleration"].last, log.matches]).to match(
      [
        [0.0, 0.5],
        be_within(1e-3).of(1.961),
        { "Time" => nil, "Speed FL" => nil, "Lateral" => "lateral_acceleration", "Sensor 7" => "wheel_front_left" }
      ]
    )
    plain = Gadwall::Signals::LiveLog.read(StringIO.new("Time;Speed FL\r\n(ms);(mph)\r\n0;10\r\n500;20\r\n"))
    expect(plain.values["wheel_front_left"]).to match([be_within(1e-3).of(16.093), be_within(1e-3).of(32.187)])
    named = Gadwall::Signals::LiveLog.read(StringIO.new("time_ms,ws_fl_mph,lat_acc_g\n0,10,0.1\n500,20,0.2\n"))
    expect(
      [named.time_s.last, named.values["wheel_front_left"].last, named.values["lateral_acceleration"].last]
    ).to match([0.5, be_within(1e-3).of(32.187), be_within(1e-3).of(1.961)])
    expect { Gadwall::Signals::LiveLog.read(StringIO.new("Time,Speed FL\n\n0,1\n\n1,fast\n")) }.to raise_error(
      Gadwall::InputError,
      /line 5, column 3/
    )
  end

  it "takes a mapping by hand before its own reading of the names" do
    rows = drive.map { |row| row.transform_keys { |name| name == "Wheel speed RL (km/h)" ? "Channel 7" : name } }
    expect(analysed(rows).log.matches["Channel 7"]).to be_nil
    expect(analysed(rows, mapping: { "Channel 7" => "wheel_rear_left" }).log.matches["Channel 7"]).to eq(
      "wheel_rear_left"
    )
  end

  {
    "Time,Speed FL\n0,1\n1,fast\n" => /line 3, column 3: 'fast'/,
    "Time,Speed FL\n0,1\n1\n" => /line 3, column 2.*2 cells/,
    "" => /line 1, column 1/,
    "Time,Speed FL\nnow,1\n" => /line 2, column 1: 'now'/,
    "Time,Speed FL\n2,1\n1,1\n" => /line 3, column 1/
  }.each do |text, message|
    it "answers #{text.inspect} with one sentence that names line and column" do
      expect { Gadwall::Signals::LiveLog.read(StringIO.new(text)) }.to raise_error(Gadwall::InputError, message)
    end
  end

  it "bears 20 000 mutated logs: no error but its own" do
    random = Random.new(3)
    seed = "Time (s),Speed FL (km/h),Brake switch\n0,1.5,ON\n0.1,2,off\n00:00:01.5,,-\n"
    20_000.times do
      text = seed.dup
      random
        .rand(1..4)
        .times { text[random.rand(text.length)] = "0123456789.,;:-\t\n abONf#(\"".chars.sample(random: random) }
      reads_or_says_where(text) { described_class.new(Gadwall::Signals::LiveLog.read(StringIO.new(text))) }
    end
  end

  # KI-01 to KI-05: handbook: vehicle dynamics, from memory.
  it "KI-01 computes yaw, radius and lateral acceleration from the rear wheels" do
    yaw = kinematics.yaw_of_wheels(49.2 / 3.6, 50.8 / 3.6, track_m: 1.55)
    expect([yaw, kinematics.radius(50 / 3.6, yaw), kinematics.lateral(50 / 3.6, yaw)]).to match(
      [be_within(0.005).of(16.43), be_within(0.01).of(48.44), be_within(0.0005).of(3.982)]
    )
  end

  it "KI-04 computes yaw from the steering, with understeer and without" do
    yaw =
      lambda do |characteristic|
        kinematics.yaw_of_steering(20, 2.0 * 15.5, wheelbase_m: 2.7, ratio: 15.5, characteristic_m_s: characteristic) /
          kinematics::DEGREES
      end
    expect([yaw.call(22), yaw.call(1e9)]).to match([be_within(5e-5).of(0.1416), be_within(5e-5).of(0.2587)])
  end
end

RSpec.describe Gadwall::Signals::MotorCurrent do
  # One stroke: rush, free run, clamp, cut-off. Seconds and amperes.
  def stroke(free: 4.0, top: 16.0, run_s: 0.8, clamp_s: 0.5, volts: ->(ampere) { 12.6 - (0.05 * ampere) })
    times = (0...4000).map { |i| i / 1000.0 }
    amperes =
      times.map do |t|
        s = t - 0.3
        if s.negative? || s > run_s + clamp_s
          0.0
        elsif s < 0.15
          free + ((18 - free) * Math.exp(-s / 0.03))
        elsif s < run_s
          free
        else
          free + ((top - free) * (s - run_s) / clamp_s)
        end
      end
    [times, amperes, amperes.map(&volts)]
  end

  def analysed(times, amperes, volts = nil)
    channels = [Gadwall::Signals::Capture::Channel.new(name: "I", unit: "A", values: amperes)]
    channels << Gadwall::Signals::Capture::Channel.new(name: "U", unit: "V", values: volts) if volts
    described_class.new(Gadwall::Signals::Capture.new(times, channels))
  end

  it "names the phases of a sound stroke" do
    analysis = analysed(*stroke)
    expect(analysis.findings).to eq([])
    expect(analysis.phases.map(&:name)).to eq(%w[inrush free_run clamp cut_off])
    expect(analysis.phases[1].level_a).to be_within(0.3).of(4)
    expect(analysis.phases[2].level_a).to be_within(0.7).of(16)
  end

  it "tells open, stalled, never clamping, slow and starved apart" do
    times, = stroke
    kinds = ->(*given) { analysed(*given).findings.map { |finding| finding[:kind] } }
    expect(kinds.call(times, times.map { 0.05 })).to eq(["open_circuit"])
    expect(kinds.call(times, times.map { |t| t.between?(0.3, 1.5) ? 17.0 : 0.0 })).to eq(["stall"])
    expect(kinds.call(times, times.map { |t| t.between?(0.3, 3.5) ? 3.5 : 0.0 })).to eq(["no_clamp"])
    expect(kinds.call(*stroke(run_s: 2.0, clamp_s: 1.6).first(2))).to eq(["slow_clamp"])
    expect(kinds.call(*stroke(volts: ->(ampere) { 12.6 - (0.3 * ampere) }))).to eq(["weak_supply"])
    expect(kinds.call(*stroke(top: 6.5, free: 3.0).first(2))).to eq(["slow_clamp"])
    expect(kinds.call(times, times.map { |t| t.between?(0.3, 0.55) ? 16.0 : 0.0 })).to eq(["stall"])
  end

  it "is not put out by a clamp meter's zero, by noise and brushes, nor by the meter the wrong way round" do
    random = Random.new(5)
    times, amperes = stroke
    rough =
      amperes.map do |ampere|
        ampere + 0.4 + (0.2 * (random.rand - 0.5)) + (ampere.positive? ? 0.4 * Math.sin(random.rand * 6.3) : 0)
      end
    [rough, rough.map(&:-@)].each { |values| expect(analysed(times, values).findings).to eq([]) }
    expect(
      analysed(times, times.map { 0.4 + (0.2 * (random.rand - 0.5)) }).findings.map { |finding| finding[:kind] }
    ).to eq(["open_circuit"])
  end

  it "takes releasing for no stroke that does not clamp, and judges the one that applies" do
    times = (0...6000).map { |i| i / 1000.0 }
    release = ->(t) { t.between?(3.0, 4.2) ? -(3.5 + (9 * Math.exp(-(t - 3.0) / 0.15))) : 0.0 }
    expect(analysed(times, times.map(&release)).findings).to eq([])
    applied = stroke[1]
    both = times.map { |t| t < 2 ? applied[(t * 1000).to_i] : release.call(t) }
    expect(analysed(times, both).to_h).to include(
      verdict: "clean",
      phases: include(include(name: "clamp", level_a: be_within(0.7).of(16)))
    )
  end

  it "hears a current that breaks off within its stroke" do
    times, amperes = stroke
    broken = amperes.each_with_index.map { |ampere, i| i.between?(700, 790) || i.between?(950, 1010) ? 0.0 : ampere }
    analysis = analysed(times, broken)
    expect(analysis.findings.map { |finding| finding.slice(:kind, :count) }).to eq([{ kind: "dropouts", count: 2 }])
    expect(analysis.marks.last[:at_s]).to match([be_within(0.03).of(0.7), be_within(0.03).of(0.95)])
  end
end

RSpec.describe Gadwall::Signals::PumpPressure do
  gas = Gadwall::Signals::Gas

  # An accumulator of 250 mL filled by a pump of 5 mL/s, with a leak, by the gas law.
  def cycle(
    precharge: 80.0,
    leak_ml_s: 0.02,
    cut_in: 150.0,
    cut_out: 200.0,
    seconds: 400,
    from_empty: false,
    pump_ml_s: 5.0,
    shell_ml: 250.0
  )
    fluid =
      if from_empty
        0.0
      else
        shell_ml - Gadwall::Signals::Gas.volume_ml(cut_in + 1, shell_ml: shell_ml, precharge_bar: precharge)
      end
    running = true
    values =
      (0...(seconds * 20)).map do
        fluid = [fluid + (((running ? pump_ml_s : 0.0) - (fluid.positive? ? leak_ml_s : 0.0)) / 20), 0.0].max
        pressure =
          fluid <= 2 ? precharge * fluid / 2 : ((precharge + 1.01325) * shell_ml / (shell_ml - fluid)) - 1.01325
        running = false if pressure >= cut_out
        running = true if pressure <= cut_in
        pressure
      end
    [values.each_index.map { |i| i / 20.0 }, values]
  end

  def analysed(times, values)
    described_class.new(
      Gadwall::Signals::Capture.new(
        times,
        [Gadwall::Signals::Capture::Channel.new(name: "P", unit: "bar", values: values)]
      )
    )
  end

  it "reads cut-in, cut-out and gas of a sound accumulator, and finds nothing" do
    found = analysed(*cycle(from_empty: true)).to_h
    expect(found[:findings]).to eq([])
    expect(found[:cut_out_bar]).to be_within(2).of(200)
    expect(found[:precharge_bar]).to be_within(8).of(80)
  end

  it "tells a leak, lost gas and a pump that cannot build apart" do
    kinds = ->(**given) { analysed(*cycle(**given)).findings.map { |finding| finding[:kind] } }
    expect(kinds.call(leak_ml_s: 4.0)).to eq(["leaks_down"])
    expect(kinds.call(precharge: 5.0, leak_ml_s: 0.3, seconds: 300)).to eq(["short_cycling"])
    expect(kinds.call(leak_ml_s: 4.99, from_empty: true, seconds: 120)).to eq(["does_not_build"])
  end

  # The same cycles with the noise of a sensor, at 1 to 50 samples a second: the truth is what they were made from.
  it "bears noise, slow sampling and strokes of the pedal" do
    [[50, 0.8], [10, 1.1], [1, 1.0]].each do |rate, noise|
      random = Random.new(rate)
      rough =
        lambda do |**given|
          times, values = cycle(**given)
          kept = times.each_index.select { |i| (i % (20 / [rate, 20].min)).zero? }
          analysed(
            times.values_at(*kept),
            values.values_at(*kept).map { |value| value + (noise * ((random.rand * 3.4) - 1.7)) }
          ).to_h
        end
      sound = rough.call(from_empty: true)
      expect(sound).to include(verdict: "clean", cut_out_bar: be_within(4).of(200), precharge_bar: be_within(8).of(80)),
      "#{rate} a second"
      expect(rough.call(from_empty: true, precharge: 15.0)[:findings].first).to include(
        kind: "lost_precharge",
        precharge_bar: be_within(6).of(15)
      )
      expect(rough.call(leak_ml_s: 4.0)[:findings].map { |row| row[:kind] }).to eq(["leaks_down"])
      expect(rough.call(leak_ml_s: 1.2)[:findings].map { |row| row[:kind] }).to eq(["leaks_down"])
      expect(rough.call(leak_ml_s: 4.99, from_empty: true, seconds: 120)[:findings].map { |row| row[:kind] }).to eq(
        ["does_not_build"]
      )
    end
  end

  # HY-02 to HY-05: handbook: gas laws and flow balance, from memory.
  it "HY-02 to HY-05 follows the gas law" do
    volume = ->(bar, exponent = 1.0) { gas.volume_ml(bar, shell_ml: 250, precharge_bar: 80, exponent: exponent) }
    expect([volume.call(150), volume.call(200), volume.call(150, 1.2), volume.call(200, 1.4)]).to match(
      [be_within(0.005).of(134.12), be_within(0.005).of(100.76), be_within(0.05).of(148.8), be_within(0.05).of(130.6)]
    )
    expect(gas.precharge_bar(180, 100.68, shell_ml: 250)).to be_within(0.05).of(71.9)
    cycle = Gadwall::Signals::PumpCycle.new(run_s: 20, rest_s: 5)
    expect([cycle.duty_cycle, cycle.leak_ml_s, cycle.fluid_ml]).to match(
      [be_within(1e-9).of(0.8), be_within(0.005).of(4.0), be_within(0.05).of(20.0)]
    )
    expect(gas.precharge_from_fluid(33.36, high_bar: 200, low_bar: 150, shell_ml: 250)).to be_within(0.05).of(80)
  end
end

RSpec.describe Gadwall::Signals::CaptureFile do
  def run(text, *options)
    Dir.mktmpdir do |folder|
      path = File.join(folder, "a.csv")
      File.write(path, text)
      out = StringIO.new
      err = StringIO.new
      [Gadwall::CLI::Runner.new(out: out, err: err).run(["capture", path, *options]), out.string, err.string]
    end
  end

  it "answers from a shell, wrong options with one sentence or the usage" do
    rows = (0...200).map { |i| "#{i / 100.0},#{i.between?(30, 150) ? 3.5 : 0.0}" }.join("\n")
    status, out, = run("Time (s),Current (A)\n#{rows}\n", "--signal", "motor_current")
    expect([status, JSON.parse(out)["findings"].map { |finding| finding["kind"] }]).to eq([0, ["no_clamp"]])
    expect(run("x", "--signal", "music")).to match([2, "", /--signal: 'music' is not valid.*usage/m])
    expect(run("x", "--signal", "wheel_speed", "--teeth", "many")).to match([1, "", /--teeth: 'many'/])
    expect(run("x")).to match([2, "", /usage/])
    expect(run("x", "--signal", "wheel_speed", "--colour", "red")).to match([2, "", /usage/])
  end
end
