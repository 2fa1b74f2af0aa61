# frozen_string_literal: true

# What counts as evidence, as laws over seeded inputs.
RSpec.describe "Laws of evidence" do
  let(:passive) { system_with("passive") }
  let(:active) { system_with("active") }

  def places(system, *entries)
    assess(system, *entries).posterior.places
  end

  it "keeps probabilities probabilities: places at most 1, outcomes of every test 1" do
    random = Random.new(12)
    20.times do
      entries =
        active
          .test_ids
          .sample(4, random: random)
          .map do |id|
            test = active.test(id).last
            if test.numeric?
              reading(id, random.rand(0.0..12.0).round(3).to_s)
            else
              finding(id, test.outcomes.keys.sample(random: random))
            end
          end
      assessment = assess(active, *entries)
      expect(assessment.posterior.places.values).to all(be_between(0, 1))
      expect(assessment.posterior.circuits.keys.map { |id| active.circuit_named(id) }).to all(
        satisfy { |circuit| assessment.posterior.circuit_probability(circuit) <= 1 }
      )
      assessment
        .next_tests
        .first(3)
        .each do |option|
          rows = assessment.posterior.table(option.circuit, option.test).rows
          rows.each { |row| expect(row.sum).to be_within(1e-6).of(1) }
        end
    end
  end

  it "takes three modules that miss the same one for little more than one: bus and supply stand as they stood" do
    shares =
      [1, 3].map do |count|
        rows = ["instrument cluster", "steering", "gateway"].first(count)
        lines = rows.map { |name| "U0121-87 current lost communication with ABS module (#{name})" }
        chance_of("chassis_bus", scan_of(*lines, answered: false))
      end
    expect(shares.last).to be_within(0.25 * shares.first).of(shares.first)
  end

  it "hears nothing of the bus from a gateway, which the scan tool reaches without it, and much from the others" do
    shorted =
      %w[gateway cluster steering].to_h do |id|
        modules = [{ "name" => "ABS", "answered" => false }, { "name" => id, "answered" => true }]
        scan = { "kind" => "scan", "modules" => modules, "codes" => [] }
        [id, chance_of("chassis_bus", scan)]
      end
    nobody = chance_of("chassis_bus", { "kind" => "scan", "modules" => [{ "name" => "ABS", "answered" => false }] })
    expect(shorted["gateway"]).to be_within(0.02).of(nobody)
    expect(shorted.values_at("cluster", "steering")).to all(be < shorted["gateway"])
  end

  it "explains a lit lamp once: where two circuits have a code, neither answers for the other's lamp" do
    scan = scan_of("C0031-13 current", "fluid level sensor circuit open")
    lit = %w[abs esc red_brake level_low].map { |id| { "lamp" => id } }
    lamps = { "kind" => "lamps", "lit" => lit, "out" => [] }
    chances = ->(*told) { %w[front_left fluid_level].map { |id| chance_of(id, *told) } }
    expect(chances.call(lamps, scan).zip(chances.call(scan))).to all(satisfy { |with, without| with >= without })
  end

  # A scan by lines as a person types them.
  def scan_of(*lines, answered: true)
    scan(*lines.map { |line| Gadwall::TroubleCodes::CodeReader.row_of(line) }, answered: answered)
  end

  def chance_of(id, *told)
    assess(active, *told).posterior.circuit_probability(active.circuit_named(id))
  end

  it "lets what comes and goes change between two readings of one episode, and a hard fault not" do
    seen = %w[signal_volts_off.reservoir_plug signal_volts_off.body_connector].zip(%w[0.002 12.3])
    readings = seen.map { |id, value| reading("fluid_level.#{id}", value) }
    scan = { "kind" => "scan", "modules" => [], "codes" => [Gadwall::TroubleCodes::CodeReader.row_of("C0267 history")] }
    short = "fluid_level/module_plug_to_body_connector"
    said = [{ "kind" => "symptoms", "ids" => ["comes_and_goes"] }, scan, *readings]
    circuit = active.circuit_named("fluid_level")
    posterior = assess(active, *said).posterior
    rows = posterior.beliefs(circuit).rows.select { |place, *| place == short }
    fleeting = rows.sum { |_, _, presence, p| presence.positive? ? p : 0.0 }
    expect(fleeting).to be > 10 * (rows.sum(&:last) - fleeting)
    expect(posterior.chance_at("fluid_level", "float_switch")).to be < 0.5
  end

  it "takes a connector of several circuits for one place: no test is worth its minutes for telling whose it is" do
    entries = [
      scan_of("C0267 current"),
      finding("fluid_level.look_level", "good"),
      reading("fluid_level.signal_volts_off.reservoir_plug", "2.4"),
      reading("fluid_level.float_ohms", "OL"),
      reading("fluid_level.open_volts.body_connector", "2.3"),
      finding("fluid_level.look_joint.module_plug", "bad")
    ]
    assessment = assess(active, *entries)
    line = assessment.verdict.conclusions.first
    own, shared = %w[fluid_level/module_plug shared/module_plug_of_abs].map { |place| line.investigation.places[place] }
    expect(line.probability).to be_within(1e-9).of(own + shared)
    expect(assessment.next_tests.first(4).map { |option| option.circuit.id }.uniq).to eq(["fluid_level"])
  end

  describe "a module behind a broken bus wire, and a lamp that the bus does not light" do
    let(:system) { system_with("active", pad_wear_front: "one", towing: "trailer_brake_module") }
    let(:told) do
      [
        { "kind" => "lamps", "lit" => %w[abs esc pad_wear trailer].map { |id| { "lamp" => id } }, "out" => [] },
        scan_of("U0121-87 current lost communication with ABS module (instrument cluster)", answered: false),
        reading("abs_module.loaded_supply", "11.9"),
        finding("chassis_bus.who_answers", "some"),
        reading("chassis_bus.bus_ohms_away.sill_connector", "680k"),
        finding("chassis_bus.look_joint.abs_plug", "good"),
        finding("chassis_bus.reseat.abs_plug", "same")
      ]
    end
    let(:loop_open) { reading("pad_wear_front.loop_ohms.module_plug", "OL") }

    it "can clear every circuit: its tests together show nine tenths of what can be wrong there" do
      posterior = assess(system, told.first).posterior
      shares =
        system.circuits.map do |circuit|
          measured = circuit.model.tests.values.reject { |test| %w[cleared compared].include?(test.kind) }
          Gadwall::Diagnosis::Coverage.share_shown(posterior, circuit, measured)
        end
      expect(shares).to all(be > 0.9)
    end

    it "asks for the test that would show most of what can light it, not for any test of that circuit" do
      left = assess(system, *told).verdict.missing.select { |missing| missing.need == "unexplained_lamp" }
      expect(left.map(&:text)).to contain_exactly(/trailer/)
      circuit, = system.test(left.first.tests.first)
      expect(circuit.module).to eq("trailer_brake")
      idle = assess(system, *told, finding("pad_wear_front.gauge_pads", "good"))
      expect(idle.verdict.missing.map(&:need)).to include("unexplained_lamp")
    end

    it "takes the lamps of a module that says nothing for explained by what keeps it silent" do
      texts = assess(system, *told).verdict.missing.map(&:text)
      expect(texts.grep(/pad wear/)).to be_empty
    end

    it "has a reading repeated that fits nothing there, though no line of investigation follows that circuit" do
      once = assess(system, *told, loop_open)
      expect(once.verdict.tests_in_doubt).to eq(["pad_wear_front.loop_ohms.module_plug"])
      twice = assess(system, *told, loop_open, loop_open)
      expect(twice.verdict.conclusions.map { |line| line.suspect.circuit.id }).to eq(%w[chassis_bus pad_wear_front])
    end
  end

  describe "a tone ring that was cleaned, and the warning is gone" do
    let(:before) do
      [
        scan_of("C0034-62 current"),
        finding("front_right.live_speed", "uneven"),
        finding("front_right.look_ring", "good"),
        finding("front_right.scope", "uneven")
      ]
    end
    let(:cleaned) { [*before, finding("front_right.clean_ring", "gone")] }
    let(:ring) { ->(*told) { places(active, *told).fetch("front_right/ring") } }

    it "has what told of it read again, and an even signal now settles it" do
      expect(
        assess(active, *cleaned).next_tests.first(4).map(&:id) & %w[front_right.scope front_right.live_speed]
      ).not_to be_empty
      even = assess(active, *cleaned, finding("front_right.scope", "even"))
      expect(even.posterior.places.fetch("front_right/ring")).to be > 0.95
      expect(even.verdict.tests_in_doubt).to be_empty
    end

    it "takes the same reading without a change between for a slip of one of the two" do
      expect(ring.call(*before, finding("front_right.scope", "even"))).to be < ring.call(*before)
    end

    it "stays put right where cleaning it once more changes nothing, and not where the warning comes back" do
      even = finding("front_right.live_speed", "even")
      once, again, back =
        [nil, "good", "back"].map do |seen|
          ring.call(*[*cleaned, seen && finding("front_right.clean_ring", seen), even].compact)
        end
      expect(again).to be_within(0.05).of(once)
      expect(back).to be < once
    end
  end

  it "does not mind the order of readings within an episode" do
    rows = [
      reading("front_left.feed_volts.body_connector", "8.1"),
      reading("front_left.feed_to_body.body_connector", "8.1"),
      finding("front_left.look_joint.body_connector", "good")
    ]
    seen = rows.permutation.map { |order| places(active, *order).transform_values { |p| p.round(12) } }
    expect(seen.uniq.size).to eq(1)
  end

  { "battery 11.7 V" => 11.7, "battery 13.0 V" => 13.0, "battery 14.3 V" => 14.3 }.each do |name, volt|
    it "accuses nobody where all sources stand together (#{name})" do
      entries = [
        reading("abs_module.loaded_supply", (volt - 0.15).to_s),
        reading("return_pump.feed_running.fuse_box", (volt - 0.2).to_s),
        reading("brake_switch.feed_volts.switch_plug", (volt - 0.15).to_s),
        reading("brake_switch.lamp_volts.switch_plug", (volt - 0.2).to_s)
      ]
      assessment = assess(active, *entries)
      %w[abs_module return_pump brake_switch].each do |id|
        circuit = active.circuit_named(id)
        prior = assess(active).posterior.circuit_probability(circuit)
        expect(assessment.posterior.circuit_probability(circuit)).to be <= prior + 0.01
      end
      expect(assessment.weights.select { |row| row.outlier_chance > 0.5 }).to eq([])
    end
  end

  [5.0, 8.0, 10.0, 12.3].each do |volt|
    it "learns from the first reading what a module feeds to its sensors, and judges its fellow by it (#{volt} V)" do
      one = reading("front_left.feed_volts.sensor_plug", volt.to_s)
      alike = assess(active, one, reading("front_right.feed_volts.sensor_plug", (volt * 0.995).round(2).to_s))
      lower = assess(active, one, reading("front_right.feed_volts.sensor_plug", (volt * 0.72).round(2).to_s))
      right = active.circuit_named("front_right")
      expect(lower.posterior.circuit_probability(right)).to be > 2 * alike.posterior.circuit_probability(right)
      feed = alike.posterior.unknowns.beliefs.fetch("sensor_feed")
      unknown = right.model.unknowns.find { |each| each.id == "sensor_feed" }
      expect(unknown.points[feed.index(feed.max)].first).to be_within(0.7).of(volt)
    end
  end

  it "weighs a reading that shows an unknown value by the mixture of all values it may have" do
    alone = active.narrowed_to("front_left")
    entry = reading("front_left.feed_volts.sensor_plug", "6.0")
    posterior = assess(alone, entry).posterior
    observation = body_of(alone, entry).observations.first
    model = alone.circuits.first.model
    unknown = model.unknowns.find { |each| each.id == "sensor_feed" }
    densities =
      unknown.points.each_index.map do |k|
        model.table(observation.test, { "sensor_feed" => k }).densities(observation.result)
      end
    error = catalogue.model("gross_error")
    slack = error * Gadwall::Diagnosis::GrossError.density(observation)
    mixed = ->(&density) { unknown.points.zip(densities).sum { |(_, share), each| share * density.call(each) } }
    sound = mixed.call { |each| ((1 - error) * each.sound) + slack }
    logs = posterior.circuits.fetch("front_left").evidence.logs
    posterior.presences.each_with_index do |presence, d|
      model.atoms.each_index do |i|
        here =
          mixed.call do |each|
            (presence * (((1 - error) * each.present[i]) + slack)) +
              ((1 - presence) * (((1 - error) * each.away[i]) + slack))
          end
        expect(Math.exp(logs[d][i])).to be_within(1e-9 * [1, here / sound].max).of(here / sound)
      end
    end
  end

  it "does not let a fault that is said to be there be absent just when it was measured" do
    normal = reading("front_left.resistance.body_connector", "1.1k")
    said = { "kind" => "presence", "fault" => "present" }
    fleeting = { "kind" => "symptoms", "ids" => ["comes_and_goes"] }
    place = "front_left/body_connector_to_sensor_plug"
    free = places(passive, scan("C0031-13"), fleeting, normal).fetch(place)
    held = places(passive, scan("C0031-13"), fleeting, said, normal).fetch(place)
    expect(held).to be < 0.5 * free
  end

  it "takes a repeat that agrees for one surer reading, and discounts the first where it differs" do
    bad = reading("front_left.resistance.sensor_plug", "OL")
    good = reading("front_left.resistance.sensor_plug", "1.1k")
    once = places(passive, scan("C0031-13"), bad).fetch("front_left/sensor")
    twice = places(passive, scan("C0031-13"), bad, bad).fetch("front_left/sensor")
    healed = places(passive, scan("C0031-13"), bad, good).fetch("front_left/sensor")
    expect(twice).to be > once
    expect(healed).to be < 0.3 * once
  end

  it "never asks for a test a third time, nor again for one that nobody doubts" do
    rows = [reading("front_left.resistance.sensor_plug", "OL"), reading("front_left.bias.sensor_plug", "2.5")]
    3.times do
      tests = assess(passive, scan("C0031-13"), *rows).next_tests.map(&:id)
      done = rows.map { |row| row["test"] }
      expect(tests & done.tally.select { |_, times| times > 1 }.keys).to eq([])
      expect(tests).not_to include("front_left.bias.sensor_plug")
      rows << reading("front_left.resistance.sensor_plug", "OL")
    end
  end

  it "holds readings after a change to the vehicle as it is then" do
    rows = [
      scan("C0031-13"),
      reading("front_left.resistance.module_plug", "110k"),
      finding("front_left.reseat.body_connector", "gone"),
      reading("front_left.resistance.module_plug", "1.1k")
    ]
    expect(places(passive, *rows).keys.first).to eq("front_left/body_connector")
  end

  it "takes how often a fault was caught for how often it is there" do
    place = "front_left/body_connector"
    share =
      lambda do |caught, tries|
        seen = finding("front_left.wiggle_joint.body_connector", "changes").merge("caught" => caught, "tries" => tries)
        assessment = assess(passive, scan("C0031-13"), seen)
        rows = assessment.posterior.beliefs(passive.circuit_named("front_left")).rows.select { |row| row[0] == place }
        [rows.sum(&:last), rows.select { |row| row[2].positive? }.sum(&:last)]
      end
    seldom, = share.call(1, 8)
    often, fleeting = share.call(5, 8)
    never, = share.call(0, 8)
    expect([never < seldom, seldom < often, fleeting > 0.3 * often]).to eq([true, true, true])
  end

  it "takes one look at a connector that circuits share for all of them, but for a stain at one terminal" do
    state = ->(result) do
      assess(passive, scan("C0031-13", "C0034-13"), finding("front_left.look_joint.module_plug", result))
    end
    loose = state.call("loose")
    expect(loose.posterior.places.keys.first).to eq("shared/module_plug_of_abs")
    expect(loose.body.observations.map { |each| each.circuit.id }).to include("front_left", "front_right", "rear_right")
    expect(loose.body.observations.last.circuit.id).to eq("front_left") # the look itself ends its place in the log
    expect(state.call("bad").body.observations.map { |each| each.circuit.id }).to eq(["front_left"])
  end

  it "lets a lit lamp speak for what can light it and against what cannot, and one that is out the other way" do
    lit = { "kind" => "lamps", "lit" => [{ "lamp" => "red_brake" }, { "lamp" => "level_low" }], "out" => %w[abs esc] }
    share = ->(entries, id) { assess(active, *entries).posterior.circuit_probability(active.circuit_named(id)) }
    expect(share.call([lit], "fluid_level")).to be > 5 * share.call([], "fluid_level")
    expect(share.call([lit], "front_left")).to be < 0.5 * share.call([], "front_left")
  end

  it "leaves a circuit that nobody measured or spoke of where it was, against its fellows" do
    before = places(active)
    after = places(active, reading("front_left.feed_volts.sensor_plug", "12.2"))
    ratio = ->(of) { of.fetch("rear_left/sensor") / of.fetch("rear_right/sensor") }
    expect(ratio.call(after)).to be_within(1e-9).of(ratio.call(before))
  end

  it "says what every test needs before the hands move" do
    tests = active.circuits.flat_map { |circuit| circuit.model.tests.values }
    tests.each do |test|
      expect(test.needs).to include(/bulb/), test.id if test.state["bulb"]
      expect(test.needs).to include("a helper"), test.id if test.where.match?(/helper/i)
      expect(test.where).not_to match(/still fitted/i)
    end
  end
end
