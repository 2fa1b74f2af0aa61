# frozen_string_literal: true

# Reference values of the trade read off the project's own circuits, each with its published source beside it.
RSpec.describe "Circuits of the trade" do
  line_of = Gadwall::Circuits::Harness
  sound = Gadwall::Circuits::Condition::SOUND

  define_method(:line) do |id, **adaptation|
    line_of.new(catalogue.circuits.fetch(id), adaptation.transform_keys(&:to_s), catalogue)
  end

  define_method(:read) do |on, kind, probes, state = {}, condition = sound|
    Gadwall::Circuits::Reader.new(on, line_of::State.of(**state)).read(kind, probes, condition)
  end

  def with(**parts)
    Gadwall::Circuits::Condition.new(**parts)
  end

  # CN-01 to CN-05: ISO 11898-2, from memory; bands common practice.
  describe "two-wire bus" do
    let(:bus) { line("can_bus") }
    let(:ends) { %w[can_h@gateway_plug.near can_l@gateway_plug.near] }

    it "CN-02 reads 60 ohm with both terminators, 120 with one, some kilohms or more with none, nothing when shorted" do
      expect(read(bus, "ohms", ends)).to be_within(1.0).of(60.0)
      expect(read(bus, "ohms", ends, {}, with(series: { "last" => 2e8 }))).to be_within(1.0).of(120.0)
      expect(read(bus, "ohms", ends, {}, with(series: { "first" => 2e8, "last" => 2e8 }))).to be > 1000
      expect(
        read(bus, "ohms", ends, {}, with(bridges: [["can_h@sill_connector.near", "can_l@sill_connector.near", 0.5]]))
      ).to be < 5
    end

    it "CN-03 reads 64.6 ohm with 20 ohm of corrosion before one terminator" do
      expect(read(bus, "ohms", ends, {}, with(series: { "can_h@sill_connector" => 20.0 }))).to be_within(0.5).of(64.62)
    end

    it "CN-04/05 keeps the two levels at 5 V in sum; a wire at ground or at the battery takes its level along" do
      levels =
        lambda do |condition|
          %w[can_h can_l].map do |wire|
            read(bus, "volts", ["#{wire}@gateway_plug.near", "ground"], { bus: "busy" }, condition)
          end
        end
      expect(levels.call(sound).sum).to be_within(0.3).of(5.0)
      expect(levels.call(with(bridges: [["can_h@sill_connector.near", "ground", 0.05]])).first).to be < 0.3
      expect(levels.call(with(bridges: [["can_l@sill_connector.near", "supply", 0.05]])).last).to be > 10
      expect(levels.call(with(bridges: [["can_h@sill_connector.near", "can_l@sill_connector.near", 0.05]]))).to all(
        be_within(0.3).of(2.5)
      )
    end

    it "CN-09 loses everyone behind a module whose plug passes the bus on" do
      monitors = system_with("active").circuit_named("chassis_bus").model.monitors
      model = system_with("active").circuit_named("chassis_bus").model
      unplugged = model.atoms.index { |atom| atom.fault.id == "steering_plug.unplugged" }
      lost = monitors.of_atom(unplugged)
      expect([lost["lost_abs"], lost["lost_cluster"]]).to match([be > 0.9, be < 0.1])
    end
  end

  # LN-04, LN-05: ISO 17987-4, from memory.
  it "LN-05 shows the single wire idle at the battery less 0.7 V, and 0 V with 11.3 mA when it is grounded" do
    lin = line("single_wire_bus")
    expect(read(lin, "volts", %w[lin@near_end ground], { key: "on" })).to be_within(0.3).of(12.4 - 0.7)
    grounded = with(bridges: [["lin@body_connector.near", "ground", 0.05]])
    expect(read(lin, "volts", %w[lin@near_end ground], { key: "on" }, grounded)).to be < 0.05
    expect(read(lin, "amperes", %w[lin@master_plug.near lin@master_plug.far], { key: "on" }, grounded)).to be_within(
      0.0005
    ).of(0.0117)
  end

  # SW-01 to SW-04: handbook: circuit theory, worked float-switch example, from memory.
  describe "float switch of two wires" do
    let(:level) { line("fluid_level_closes") }
    let(:mid) { %w[signal@body_connector.near ground] }

    it "SW-02 shows under 0.01 V at mid-harness while it is stuck closed" do
      # 7.33 mV in the worked example, whose way to ground is 3 m shorter
      shown = read(level, "volts", mid, { key: "on", level: "low" })
      expect(shown).to be_between(0.00733, 0.00733 + (3 * 2 * 0.0371 * 0.012))
    end

    it "SW-03 shows 12 V with the plug pulled, and stays at nothing where the wire is chafed" do
      expect(read(level, "volts", mid, { key: "on", level: "low", disconnected: ["reservoir_plug"] })).to be_within(
        0.005
      ).of(11.999)
      chafed = with(bridges: [["signal@module_plug.far", "ground", 0.05]])
      expect(read(level, "volts", mid, { key: "on", disconnected: ["reservoir_plug"] }, chafed)).to be_within(
        0.0002
      ).of(0.0006)
    end

    it "SW-04 never shows a low level with its ground broken, and half of it through 470 ohm" do
      expect(
        read(level, "volts", mid, { key: "on", level: "low" }, with(series: { "return@body_connector" => 2e8 }))
      ).to be_within(0.005).of(11.999)
      expect(
        read(level, "volts", mid, { key: "on", level: "low" }, with(series: { "signal@reservoir_plug" => 470.0 }))
      ).to be_within(0.01).of(3.84)
    end
  end

  # SW-05: handbook: circuit theory, from memory: four states told apart.
  it "SW-05 tells closed, open, grounded and broken apart on a monitored switch" do
    switch = line("park_brake_switch")
    volts =
      lambda do |state, condition = sound|
        read(switch, "volts", %w[signal@near_end ground], { key: "on", **state }, condition)
      end
    shown = [
      volts.call({ switch: "pulled" }),
      volts.call({}),
      volts.call({}, with(bridges: [["signal@module_plug.far", "ground", 0.05]])),
      volts.call({}, with(series: { "signal@module_plug" => 2e8 }))
    ]
    expect(shown[0]).to be_within(0.05).of(2.5)
    expect(shown[1]).to be_within(0.05).of(4.583)
    expect(shown[2]).to be_within(0.01).of(0.0)
    expect(shown[3]).to be_within(0.05).of(5.0)
  end

  # SV-06 to SV-08, ME-06 to ME-09: handbook: circuit theory; UN R37 sheet H7; from memory.
  describe "park-brake path with a connector in it" do
    # Battery 12.6 V behind 10 mohm, 5 m of 2.5 mm2, driver 30 mohm, 7 m of 1.5 mm2, then the load.
    def amperes(load, connector)
      net = Gadwall::Circuits::Network.new
      net.source("battery", "a", "ground", 12.6, ohm: 0.010 + (5 * 0.0076) + 0.030 + (7 * 0.0127))
      net.resistor("connector", "a", "b", [connector, 1e-9].max).resistor("load", "b", "ground", load)
      Gadwall::Circuits::Solver.solve(net).amperes("load")
    end

    [
      ["SV-06", 0.60, 0, 16.43, 0.005],
      ["SV-07", 0.60, 1, 7.131, 0.0005],
      ["SV-07", 0.60, 50, 0.2482, 5e-5],
      ["SV-08", 2.618, 0, 4.524, 0.0005],
      ["SV-08", 2.618, 1, 3.329, 0.0005]
    ].each do |id, load, connector, ampere, slack|
      it("#{id} carries #{ampere} A into #{load} ohm through a connector of #{connector} ohm") do
        expect(amperes(load, connector)).to be_within(slack).of(ampere)
      end
    end

    it "SV-08, ME-09 leaves a bulb in place of the motor dark behind 50 ohm, where a meter alone still shows the " \
         "battery" do
      motor = line("park_brake_motor")
      connector = with(series: { "plus@body_connector" => 50.0 })
      bulb = { command: "apply", bulb: true, disconnected: ["motor_plug"] }
      expect(read(motor, "volts", %w[plus@harness_end minus@harness_end], bulb, connector)).to be_within(0.03).of(0.625)
      expect(read(motor, "volts", %w[plus@harness_end minus@harness_end], bulb)).to be_within(0.25).of(11.84)
      expect(
        read(
          motor,
          "volts",
          %w[plus@harness_end minus@harness_end],
          { command: "apply", disconnected: ["motor_plug"] },
          connector
        )
      ).to be > 12.4
    end

    it "PB-06 reads the motor from its plug, over limit when it is open" do
      motor = line("park_brake_motor")
      expect(
        read(motor, "ohms", %w[plus@body_connector.far minus@body_connector.far], { disconnected: ["body_connector"] })
      ).to be_between(0.5, 1.5)
      expect(
        read(
          motor,
          "ohms",
          %w[plus@body_connector.far minus@body_connector.far],
          { disconnected: ["body_connector"] },
          with(series: { "plus@motor_plug" => 2e8 })
        )
      ).to be > 60e6
    end
  end

  # SE-11: common practice: ratiometric 0.5 to 4.5 V for 0 to 250 bar on 5 V.
  it "SE-11 reads 0.5 V at rest and 1.3 V at 50 bar from a pressure sensor" do
    sensor = line("pressure_sensor")
    expect(read(sensor, "volts", %w[signal@near_end ground], { key: "on" })).to be_within(0.05).of(0.5)
    expect(read(sensor, "volts", %w[signal@near_end ground], { key: "on", pedal: "pressed" })).to be_within(0.08).of(
      1.3
    )
  end

  # SW-06: common practice: supply solid and output falling is the switch; both falling is the supply.
  it "SW-06 tells a switch that lets go from a feed that does" do
    model = system_with("active").circuit_named("brake_switch").model
    traces = model.table(model.tests["two_traces"])
    seen =
      lambda do |fault|
        i = model.atoms.each_index.to_a.reverse.find { |k| model.atoms[k].fault.id == fault }
        model.tests["two_traces"].outcomes.keys[traces.rows[traces.row_of.getbyte(i)].each_with_index.max.last]
      end
    expect(seen.call("switch.contact_worn")).to eq("output")
    expect(seen.call("wire_feed.fuse_box_to_body_connector.open")).to eq("both")
  end

  # IN-01: handbook: probability, from memory: a fault there 10 percent of the time, in ten looks.
  it "IN-01 meets a fault that is there a tenth of the time in 65 of 100 rounds of ten looks" do
    model = system_with("active").circuit_named("front_left").model
    test = model.tests.values.find(&:window?)
    expect(Gadwall::Tests::TestTable.new(model, test, 10, 3).meeting_chance(0.1)).to be_within(5e-5).of(0.6513)
    expect(Gadwall::Tests::TestTable.new(model, test, 1, 3).meeting_chance(0.1, provoked: true)).to be_within(1e-9).of(
      1 - (0.9**3)
    )
  end
end
