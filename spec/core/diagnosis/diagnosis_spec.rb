# frozen_string_literal: true

require "tempfile"
require "yaml"

RSpec.describe Gadwall::Diagnosis do
  let(:passive) { system_with("passive") }
  let(:active) { system_with("active") }

  def place(assessment)
    assessment.verdict.suspect.place
  end

  describe "the posterior" do
    {
      "passive, readings" => [
        "passive",
        [
          %w[front_left.resistance.body_connector OL],
          %w[front_left.resistance.sensor_plug 1.2k],
          %w[front_right.insulation.module_plug 40k]
        ]
      ],
      "passive, looks and shakes" => [
        "passive",
        [
          %w[front_right.look_ring cracked],
          %w[front_right.wiggle_joint.body_connector changes],
          %w[front_right.live_speed dropouts],
          %w[front_right.ac_volts.sensor_plug 90m]
        ]
      ],
      "active, readings" => [
        "active",
        [
          %w[front_right.feed_volts.sensor_plug 3.2],
          %w[front_right.current.body_connector 7m],
          %w[front_left.return_volts 0.8],
          %w[front_left.scope weak]
        ]
      ]
    }.each do |name, (kind, rows)|
      it "equals brute force over every set of faults to 1e-9 (#{name})" do
        system = known(kind).narrowed_to("front_left", "front_right", "abs_module")
        entries =
          rows.map { |test, result| system.test(test).last.numeric? ? reading(test, result) : finding(test, result) }
        assessment = assess(system, *entries)
        brute = BruteForce.new(system, body_of(system, *entries).observations, catalogue, beam(assessment))
        off = assessment.suspects.reject { |suspect| (suspect.probability - brute.probability(suspect.id)).abs < 1e-9 }
        expect(off.map { |suspect| [suspect.id, suspect.probability, brute.probability(suspect.id)] }).to eq([])
        expect(assessment.suspects.sum(&:probability) + assessment.posterior.unlisted).to be_within(1e-9).of(1)
      end
    end

    # A vehicle whose sheet states what would be unknown.
    def known(kind)
      wheel = kind == "passive" ? { "bias_volt" => 5, "coil_ohm" => 1100 } : { "feed_volt" => 12, "shunt_ohm" => 115 }
      given = { "front_left" => wheel, "front_right" => wheel, "abs_module" => { "battery_volt" => 12.6 } }
      system_with(kind, circuits: given.transform_values { |values| { "values" => values } })
    end

    # Which pairs in one circuit are tried, each fault with its severity.
    def beam(assessment)
      assessment.posterior.circuits.transform_values do |weights|
        atoms = weights.circuit.model.atoms
        weights.pairs.map { |pair| pair.atoms.map { |i| [atoms[i].fault.id, atoms[i].severity] } }
      end
    end

    it "does not depend on the order of the evidence" do
      entries = [
        scan({ "code" => "C0031", "failure_type" => "13", "status" => "2F" }),
        reading("front_left.resistance.body_connector", "OL"),
        finding("front_left.look_ring", "good"),
        reading("front_left.bias.body_connector", "5.0")
      ]
      results =
        entries
          .permutation
          .first(5)
          .map do |order|
            assess(passive, *order).suspects.map { |suspect| [suspect.id, suspect.probability.round(12)] }
          end
      expect(results.uniq.size).to eq(1)
    end

    it "sums to one and never answers with a stranger, on random evidence" do
      random = Random.new(7)
      system = system_with({ "front" => "passive", "rear" => "active" })
      6.times do
        entries = Array.new(random.rand(1..4)) { random_entry(system, random) }
        assessment = assess(system, *entries)
        expect(assessment.suspects.sum(&:probability) + assessment.posterior.unlisted).to be_within(1e-9).of(1)
        expect(assessment.posterior.unlisted).to be < 0.6
        expect(assessment.suspects.map(&:probability)).to all(be_between(0, 1))
        expect(assessment.next_tests.first.outcomes.sum(&:chance)).to be_between(0.9, 1.001)
      end
    end

    def random_entry(system, random)
      id = system.test_ids.sample(random: random)
      _, test = system.test(id)
      return finding(id, test.outcomes.keys.sample(random: random)) unless test.numeric?

      reading(
        id,
        if test.unit == "ohm"
          ["OL", (10**random.rand(-1.0..6.0)).round(2).to_s].sample(random: random)
        else
          random.rand(0.0..(test.unit == "V" ? 13.0 : 0.02)).round(4).to_s
        end
      )
    end
  end

  describe "what readings do" do
    it "finds the wire broken between two connectors that read differently" do
      assessment =
        assess(
          passive,
          scan("C0031-13"),
          reading("front_left.resistance.body_connector", "OL"),
          reading("front_left.resistance.sensor_plug", "1.1k"),
          reading("front_left.bias.sensor_plug", "0.2")
        )
      expect(place(assessment)).to eq("front_left/body_connector_to_sensor_plug")
      expect(assessment.verdict.state).to eq("proven")
      expect(assessment.place_state("front_left", "sensor")).to eq("ok")
    end

    it "keeps the guilty in view after one wrong probe" do
      one =
        assess(
          passive,
          scan("C0031-13"),
          reading("front_left.resistance.sensor_plug", "OL"),
          reading("front_left.bias.sensor_plug", "5.0")
        )
      two =
        assess(
          passive,
          scan("C0031-13"),
          reading("front_left.resistance.sensor_plug", "OL"),
          reading("front_left.bias.sensor_plug", "5.0"),
          reading("front_left.resistance.sensor_plug", "1.1k")
        )
      expect(one.posterior.places["front_left/sensor"]).to be > 0.9
      expect(two.posterior.places["front_left/sensor"]).to be > 0.02
    end

    it "doubts a reading that fits nothing, and believes it no more than it must" do
      assessment =
        assess(
          passive,
          scan("C0031-62"),
          finding("front_left.look_ring", "cracked"),
          finding("front_left.live_speed", "one_gap"),
          reading("front_left.insulation.module_plug", "37")
        )
      doubted = assessment.weights.select { |row| row.outlier_chance > Gadwall::Diagnosis::Weight::OUTLIER_FROM }
      expect(doubted.map { |row| row.observation.test.id }).to eq(["insulation.module_plug"])
      expect(assessment.verdict.missing.map(&:need)).to include("repeat")
      expect(place(assessment)).to eq("front_left/ring")
    end

    it "does not let a pass clear a fault that comes and goes" do
      left =
        lambda do |status, symptom|
          said = [
            scan({ "code" => "C0031", "failure_type" => "13", "status" => status }),
            { "kind" => "symptoms", "ids" => [symptom] }
          ]
          before, after =
            [said, said + [reading("front_left.resistance.module_plug", "1.1k")]].map do |entries|
              places = assess(passive, *entries).posterior.places
              places["front_left/body_connector"] / places["front_left/module_input"]
            end
          after / before
        end
      expect(left.call("history", "comes_and_goes")).to be > left.call("current", "at_key_on")
    end

    it "takes a code without a fault for what it may be: nothing wrong now" do
      expect(assess(passive, scan).posterior.none).to be > 0.2
      expect(
        assess(passive, scan({ "code" => "C0031", "failure_type" => "13", "status" => "history" })).posterior.none
      ).to be_between(0.3, 0.7) # what set an old code may have been cured since
    end

    it "lets a maker's figure narrow what the coil may read" do
      given = system_with("passive", circuits: { "front_left" => { "values" => { "coil_ohm" => 1150 } } })
      spread =
        lambda do |system|
          circuit, test = system.test("front_left.resistance.sensor_plug")
          circuit.model.predictor.predict(test, Gadwall::Circuits::Condition::SOUND).humps.first[1]
        end
      expect(spread.call(given)).to be < spread.call(passive) / 2
    end

    it "blames the module's supply when everything is dead and it does not answer" do
      assessment = assess(active, scan(answered: false), reading("abs_module.loaded_supply", "0.1"))
      expect(place(assessment)).to start_with("abs_module/")
      supply = %w[abs_module/ shared/ground_G2 shared/fuse_box_of_the_vehicle]
      expect(assessment.posterior.places.sum { |name, p| name.start_with?(*supply) ? p : 0 }).to be > 0.95
    end
  end

  describe "gates" do
    let(:deaf) do
      [
        scan("C0031-31"),
        reading("front_left.resistance.module_plug", "1.1k"),
        reading("front_left.ac_volts.module_plug", "0.26"),
        finding("front_left.scope.module_plug", "even"),
        finding("front_left.simulate_at_module", "none")
      ]
    end

    let(:dry) { finding("front_left.look_joint.module_plug", "good") }

    it "condemns no module before its supply is proven under load" do
      before = assess(passive, *deaf)
      expect(place(before)).to eq("front_left/module_input")
      expect(before.verdict.probability).to be > 0.9
      expect(before.verdict.state).to eq("likely")
      expect(before.verdict.missing.map(&:need)).to include("supply")
      expect(before.next_tests.first(3).map(&:id)).to include("abs_module.loaded_supply")
      expect(before.cautions.map { |caution| caution[:rule] }).to include("no_module_yet")
      again = [*deaf, dry, finding("front_left.simulate_at_module", "none")]
      expect(assess(passive, *again).verdict.missing.map(&:need)).to eq(["supply"])
      expect(assess(passive, *again, reading("abs_module.loaded_supply", "12.3")).verdict.state).to eq("proven")
    end

    it "condemns no module for one reading that was a slip: its signal is fed in twice" do
      fed = assess(passive, *deaf, dry, reading("abs_module.loaded_supply", "12.3"))
      expect(fed.verdict.state).to eq("likely")
      expect(fed.verdict.missing.map(&:need)).to eq(["confirm"])
    end

    it "condemns no module before its connector is looked into, where water drowns a signal that is fed in" do
      seen = %w[live_speed substitute_sensor simulate_at_module].map { |id| finding("front_left.#{id}", "none") }
      fed = [scan("C0031-31"), *seen, reading("abs_module.loaded_supply", "12.3")]
      unseen = assess(active, *fed).verdict.conclusion_at("front_left/module_input").missing
      expect(unseen.find { |missing| missing.need == "own_plug" }.tests).to eq(["front_left.look_joint.module_plug"])
      needs = ->(*looks) do
        assess(active, *fed, *looks).verdict.conclusion_at("front_left/module_input").missing.map(&:need)
      end
      wet = finding("front_left.look_joint.module_plug", "wet")
      expect(needs.call(dry)).not_to include("own_plug")
      expect(needs.call(wet)).to include("own_plug")
      expect(needs.call(wet, finding("front_left.reseat.module_plug", "same"))).not_to include("own_plug")
    end

    it "asks for no look where the readings themselves speak against water" do
      again = [*deaf, finding("front_left.simulate_at_module", "none"), reading("abs_module.loaded_supply", "12.3")]
      expect(assess(passive, *again).verdict.state).to eq("proven")
    end

    it "takes no module on a bus for silent before power, ground and bus at its own connector are tested" do
      missing = { "ABS" => true, "steering" => false }.map { |name, ok| { "name" => name, "answered" => ok } }
      codes = [Gadwall::TroubleCodes::CodeReader.row_of("U0131-87 current lost communication with steering")]
      scan = { "kind" => "scan", "modules" => missing, "codes" => codes }
      seen = [scan, finding("chassis_bus.who_answers", "some")]
      silent = assess(active, *seen)
      expect(silent.verdict.conclusions.first.suspect.id).to eq("chassis_bus.steering.silent")
      expect(silent.verdict.missing.map(&:need)).to include("member")
      expect(silent.verdict.missing.flat_map(&:tests)).to include("chassis_bus.module_supply.steering")
      good = assess(active, *seen, finding("chassis_bus.module_supply.steering", "silent"))
      expect(good.verdict.state).not_to eq("proven")
    end

    it "does not take a code that stays away for wiring that was tested" do
      quiet = assess(active, scan("C0031-31"), finding("front_left.clear_codes", "good"))
      needs = quiet.verdict.conclusion_at("front_left/sensor").missing.map(&:need)
      expect(needs).to include("wiring", "at_plug")
    end

    it "does not take a look at the module's plug for a supply proven under load" do
      looked = assess(passive, *deaf, finding("abs_module.look_joint.supply_plug", "good"))
      expect(looked.verdict.missing.map(&:need)).to include("supply")
    end

    it "does not take a weak supply for a proven one" do
      expect(assess(passive, *deaf, reading("abs_module.loaded_supply", "6.1")).verdict.state).not_to eq("proven")
    end

    it "proves no sensor by its code alone, nor before the wiring from the module's end" do
      alone = assess(passive, scan("C0031-13"), reading("front_left.resistance.sensor_plug", "OL"))
      expect(alone.verdict.suspect.id).to eq("front_left.sensor.open")
      expect(alone.verdict.missing.map(&:need)).to include("wiring")
      expect(
        assess(
          passive,
          scan("C0031-13"),
          reading("front_left.resistance.sensor_plug", "OL"),
          reading("front_left.bias.sensor_plug", "5.0")
        ).verdict.state
      ).to eq("proven")
    end

    it "leaves a present code elsewhere as a second line of investigation" do
      assessment =
        assess(
          passive,
          scan("C0031-13", "C0037-31"),
          reading("front_left.resistance.body_connector", "OL"),
          reading("front_left.resistance.sensor_plug", "1.1k"),
          reading("front_left.bias.sensor_plug", "0.2")
        )
      expect(assessment.verdict.conclusions.map { |line| line.investigation.circuits }).to eq(
        [["front_left"], ["rear_left"]]
      )
      expect(assessment.verdict.conclusions.map(&:state)).to eq(%w[proven open])
      expect(assessment.verdict.state).to eq("open")
    end

    it "tells cause codes from those that follow from a module without power" do
      dead =
        assess(
          passive,
          scan("C0031-13", "U0121-87", answered: false),
          reading("abs_module.loaded_supply", "0.2"),
          reading("abs_module.feed_at_fuse.feed", "0.3")
        )
      expect(dead.explanations.rows.to_h { |row| [row.code.code, row.kind] }).to eq(
        "C0031" => "symptom",
        "U0121" => "symptom"
      )
      expect(dead.verdict.conclusions.map { |line| line.suspect.circuit.id }).to eq(["abs_module"])
    end

    it "follows two unrelated faults side by side and proves both" do
      both =
        assess(
          passive,
          scan("C0031-13", "C0040-64"),
          reading("front_left.resistance.body_connector", "OL"),
          reading("front_left.resistance.sensor_plug", "1.1k"),
          reading("front_left.bias.sensor_plug", "0.2"),
          finding("brake_switch.rear_lamps", "dropouts"),
          finding("brake_switch.two_traces", "output"),
          reading("brake_switch.contact_drop", "6.5"),
          reading("brake_switch.switch_ohms", "3.1")
        )
      expect(both.verdict.conclusions.map { |line| line.suspect.place }).to contain_exactly(
        "front_left/body_connector_to_sensor_plug",
        "brake_switch/switch"
      )
      expect(both.verdict.state).to eq("proven")
      expect(both.suspects.first.id).to match(/front_left\.wire.* \+ brake_switch\.switch/)
    end

    it "takes one connector for the cause of two circuits, once it is shown in both" do
      seen = [
        scan("C0031-13", "C0034-13"),
        { "kind" => "symptoms", "ids" => ["wet"] },
        reading("front_left.resistance.module_plug", "1.1k"),
        reading("front_right.resistance.module_plug", "1.12k"),
        finding("front_left.look_joint.module_plug", "bad")
      ]
      once = assess(passive, *seen)
      expect([once.verdict.state, once.verdict.missing.flat_map(&:tests)]).to eq(
        ["likely", ["front_right.look_joint.module_plug"]]
      )
      wet = assess(passive, *seen, finding("front_right.look_joint.module_plug", "bad"))
      expect(wet.verdict.conclusions.map { |line| line.suspect.place }).to eq(["shared/module_plug_of_abs"])
      expect(wet.verdict.state).to eq("proven")
      expect(wet.verdict.suspect.text).to match(/module connector, common to several circuits \(.*front left, front/)
    end
  end

  describe "one slip of the hand" do
    it "proves no plug of several circuits: what was seen loose once is seen again" do
      silent = Array.new(3) { |i| "C003#{%w[1 4 7].fetch(i)}-13" }
      seen = [scan(*silent), finding("abs_module.look_joint.supply_plug", "loose")]
      once = assess(passive, *seen)
      again = assess(passive, *seen, finding("abs_module.look_joint.supply_plug", "loose"))
      expect(once.verdict.state).not_to eq("proven")
      expect(once.verdict.conclusions.first.missing.map(&:need)).to include("confirm")
      expect(again.verdict.conclusions.first.missing.map(&:need)).not_to include("confirm")
    end

    it "proves no sensor that was replaced for a moment, while nothing else says that its wiring is good" do
      dead = [scan("C0037-13"), finding("rear_left.live_spin", "none"), finding("rear_left.look_ring", "good")]
      there = finding("rear_left.substitute_sensor", "even")
      once = assess(active, *dead, there)
      expect(once.verdict.conclusions.first.missing.map(&:need)).to include("own_pins")
      twice = assess(active, *dead, there, finding("rear_left.live_spin", "none"), there)
      expect(twice.verdict.conclusions.first.missing.map(&:need)).not_to include("own_pins")
    end
  end

  describe "the next test" do
    it "pays for getting at a place once" do
      first = assess(passive, scan("C0031-13"))
      planner = Gadwall::Diagnosis::NextTests.new(first.posterior, first.body)
      circuit, test = passive.test("front_left.bias.sensor_plug")
      later = assess(passive, scan("C0031-13"), reading("front_left.resistance.sensor_plug", "1.1k"))
      expect(planner.minutes(circuit, test)).to eq(test.minutes + 1 + 5)
      expect(Gadwall::Diagnosis::NextTests.new(later.posterior, later.body).minutes(circuit, test)).to eq(test.minutes)
      closed =
        assess(
          passive,
          scan("C0031-13"),
          reading("front_left.resistance.sensor_plug", "1.1k"),
          { "kind" => "access", "closed" => ["front_left/wheel_off"] }
        )
      expect(Gadwall::Diagnosis::NextTests.new(closed.posterior, closed.body).minutes(circuit, test)).to eq(
        test.minutes + 5
      )
    end

    it "takes a reading again that speaks against the leader, once nothing else tells much" do
      seen = { "direct_feed" => "good", "run_pump" => "silent", "relay_swap" => "still", "coil_drive" => "good" }
      read = { "feed_running.pump_plug" => "0", "continuity.feed.relay_socket-pump_plug" => "0", "bulb_pump" => "0" }
      done = seen.map { |id, outcome| finding("return_pump.#{id}", outcome) }
      done += read.map { |id, shown| reading("return_pump.#{id}", shown) }
      done << reading("return_pump.feed_running.relay_socket", "13.4")
      done << finding("return_pump.look_joint.relay_socket", "good")
      torn = assess(passive, scan("C0110-71"), *done)
      expect(torn.verdict.state).to eq("open")
      expect(torn.verdict.decisive_tests).to include("return_pump.coil_drive")
      expect(torn.next_tests.first(3).map(&:id)).to include(*%w[relay_swap coil_drive].map { |id| "return_pump.#{id}" })
      early = assess(passive, scan("C0110-71"), *done.first(2))
      expect(early.next_tests.map(&:id) & %w[return_pump.direct_feed return_pump.run_pump]).to be_empty
    end

    it "says what each outcome would point to, and is right about it" do
      before = assess(passive, scan("C0031-13"))
      option = before.next_tests.find { |each| each.id == "front_left.resistance.body_connector" }
      bad = option.outcomes.find { |outcome| outcome.label == "OL" }
      after = assess(passive, scan("C0031-13"), reading(option.id, "OL"))
      bad.places.each { |name, p| expect(after.posterior.places[name]).to be_within(0.06).of(p) }
    end
  end

  it "carries a source on every number of its knowledge" do
    files = Dir[File.join(Gadwall::ROOT, "data/**/*.yml")]
    expect(files.size).to be > 15
    records =
      files.flat_map do |file|
        Array(YAML.safe_load_file(file, aliases: true).then { |data| data.is_a?(Hash) ? [data] : data })
      end
    expect(records).to all(include("source" => match(Gadwall::Knowledge::Records::SOURCE)))
  end

  it "refuses a record without a source, naming file, record and key" do
    Tempfile.create(%w[bad .yml]) do |file|
      file.write("- {id: x, value: 3}\n")
      file.flush
      expect { Gadwall::Knowledge::Records.list(file.path) }.to raise_error(
        Gadwall::KnowledgeError,
        /record 'x', key 'source'/
      )
    end
  end
end
