# frozen_string_literal: true

RSpec.describe Gadwall::Circuits::Solver do
  def network
    Gadwall::Circuits::Network.new
  end

  def solve(net)
    described_class.solve(net)
  end

  # Reference values: rows SV-01 to SV-09, handbook: circuit theory.
  describe "the worked networks of circuit theory" do
    let(:cube) do
      (0...8).each_with_object(network) do |corner, net|
        [1, 2, 4].each do |bit|
          net.resistor("r#{corner}-#{bit}", "c#{corner}", "c#{corner | bit}", 1) if corner.nobits?(bit)
        end
      end
    end

    it "SV-01 finds the resistances of the cube of twelve 1 ohm resistors" do
      expect(described_class.ohms(cube, "c0", "c1")).to be_within(1e-9).of(7 / 12.0)
      expect(described_class.ohms(cube, "c0", "c3")).to be_within(1e-9).of(3 / 4.0)
      expect(described_class.ohms(cube, "c0", "c7")).to be_within(1e-9).of(5 / 6.0)
    end

    { 1 => 2.0, 2 => 1.666667, 3 => 1.625, 10 => 1.618033999 }.each do |sections, ohms|
      it "SV-02 gives #{ohms} ohm for a ladder of #{sections}" do
        ladder = network
        (1..sections).each do |i|
          ladder.resistor("s#{i}", i == 1 ? "in" : "n#{i - 1}", "n#{i}", 1).resistor("p#{i}", "n#{i}", "ground", 1)
        end
        expect(described_class.ohms(ladder, "in", "ground")).to be_within(5e-7).of(ohms)
      end
    end

    it "SV-03 solves the bridge" do
      bridge =
        network
          .source("battery", "top", "ground", 12)
          .resistor("r1", "top", "a", 100)
          .resistor("r2", "a", "ground", 200)
          .resistor("r3", "top", "b", 150)
          .resistor("r4", "b", "ground", 250)
          .resistor("r5", "a", "b", 50)
      solution = solve(bridge)
      expect(solution.volts("a")).to be_within(5e-5).of(7.8416)
      expect(solution.volts("b")).to be_within(5e-5).of(7.7228)
      expect(solution.amperes("r5")).to be_within(5e-7).of(2.376e-3)
      expect(-solution.amperes("battery")).to be_within(5e-7).of(70.099e-3)
    end

    it "SV-04 shares the load between two sources" do
      net =
        network
          .source("weak", "bus", "ground", 12.6, ohm: 0.01)
          .source("strong", "bus", "ground", 13.8, ohm: 0.1)
          .resistor("load", "bus", "ground", 1)
      solution = solve(net)
      expect(solution.volts("bus")).to be_within(5e-5).of(12.5946)
      expect(-solution.amperes("strong")).to be_within(5e-4).of(12.054)
      expect(-solution.amperes("weak")).to be_within(5e-4).of(0.541)
    end

    it "SV-05 takes delta for star" do
      delta = network.resistor("12", "1", "2", 10).resistor("13", "1", "3", 20).resistor("23", "2", "3", 30)
      expect(described_class.ohms(delta, "1", "2")).to be_within(1e-9).of(3.3333333333 + 5)
      expect(described_class.ohms(delta, "1", "3")).to be_within(1e-9).of(3.3333333333 + 10)
    end

    [
      [0, 16.43, 9.86, 5e-3],
      [1, 7.131, 4.279, 5e-4],
      [50, 0.2482, 0.149, 5e-4]
    ].each do |connector, ampere, volt, slack|
      it "SV-06/07 runs the park-brake path with a connector of #{connector} ohm" do
        path =
          network
            .source("battery", "feed", "ground", 12.6, ohm: 0.01)
            .resistor("five metres of 2.5", "feed", "driver", 5 * catalogue.wire_ohm_per_m(2.5))
            .resistor("driver", "driver", "lead", 0.03)
            .resistor("seven metres of 1.5", "lead", "connector", 7 * catalogue.wire_ohm_per_m(1.5))
            .resistor("connector", "connector", "motor", [connector, 1e-12].max)
            .resistor("motor", "motor", "ground", 0.6)
        expect(solve(path).amperes("motor")).to be_within(slack).of(ampere)
        expect(solve(path).volts("motor")).to be_within(5e-3).of(volt)
      end
    end

    it "SV-09 calls a cut-off part floating and keeps Kirchhoff's law" do
      net =
        network
          .source("battery", "a", "ground", 12)
          .resistor("load", "a", "ground", 10)
          .resistor("island", "x", "y", 100)
          .switch("broken", "a", "x", closed: false)
      solution = solve(net)
      expect(solution.volts("x", "a")).to be_nil
      expect(solution.volts("x", "y")).to eq(0.0)
      expect(described_class.ohms(net, "x", "ground")).to eq(Float::INFINITY)
    end
  end

  it "ME-04 and ME-05 loads what it measures with a 10 Mohm meter" do
    divider =
      network
        .source("battery", "top", "ground", 12)
        .resistor("upper", "top", "mid", 1e6)
        .resistor("lower", "mid", "ground", 1e6)
    expect(solve(divider).volts("mid")).to be_within(5e-4).of(6.0)
    expect(solve(divider.resistor("meter", "mid", "ground", 1e7)).volts("mid")).to be_within(5e-4).of(5.714)
    ghost =
      network
        .source("battery", "top", "ground", 12)
        .resistor("corroded core", "top", "end", 1e5)
        .resistor("meter", "end", "ground", 1e7)
    expect(solve(ghost).volts("end")).to be_within(5e-3).of(11.88)
  end

  it "counts an ammeter and a closed switch as no resistance" do
    net =
      network
        .source("battery", "a", "ground", 12)
        .switch("key", "a", "b", closed: true)
        .ammeter("meter", "b", "c")
        .resistor("lamp", "c", "ground", 6)
    expect(solve(net).amperes("meter")).to be_within(1e-12).of(2.0)
  end

  it "tells contradicting sources from floating parts" do
    expect { solve(network.source("a", "x", "ground", 12).source("b", "x", "ground", 11)) }.to raise_error(
      Gadwall::SingularNetworkError,
      /ideal sources/
    )
  end

  it "starves a sink that has too little voltage" do
    net =
      lambda do |connector|
        network
          .source("feed", "f", "ground", 12)
          .resistor("connector", "f", "s", connector)
          .sink("sensor", "s", "r", 0.014, min_volt: 4.5)
          .resistor("shunt", "r", "ground", 115)
      end
    expect(solve(net.call(200)).amperes("sensor")).to be_within(1e-12).of(0.014)
    expect(solve(net.call(2000)).amperes("sensor")).to be < 0.006
  end

  # The outside check: ngspice, on networks that nobody chose.
  it "agrees with ngspice to 1e-6 on random networks", :outside do
    random = Random.new(20_261_124)
    20.times do
      net = random_network(random)
      ours = solve(net)
      Spice
        .node_voltages(net)
        .each do |node, volts|
          expect(ours.volts(node)).to be_within([volts.abs * 1e-6, 1e-9].max).of(volts),
          "#{node}: ours #{ours.volts(node)}, ngspice #{volts}"
        end
    end
  end

  def random_network(random)
    nodes = (0..random.rand(4..12)).map { |i| "k#{i}" }
    net = network.source("supply", "k0", "ground", random.rand(5.0..15.0))
    nodes.each_cons(2).with_index { |(a, b), i| net.resistor("chain#{i}", a, b, 10**random.rand(-1.0..6.0)) }
    net.resistor("end", nodes.last, "ground", 10**random.rand(0.0..5.0))
    random
      .rand(3..8)
      .times do |i|
        a, b = (nodes + ["ground"]).sample(2, random: random)
        net.resistor("extra#{i}", a, b, 10**random.rand(-1.0..7.0))
      end
    net.current_source("pull", nodes.last, "ground", random.rand(-0.01..0.01))
    net.source("second", nodes[1], "ground", random.rand(5.0..15.0), ohm: random.rand(0.1..100.0))
  end
end
