# frozen_string_literal: true

require "spec_helper"

# Exercises, the stand with its instruments, the examiner, and how it went.
RSpec.describe Gadwall::Training do
  let(:van) { { "name" => "van", "sensors" => "passive" } }

  def exercise(*faults, sheet: van, was: [], seed: 5)
    described_class::Drawn.of(
      faults,
      sheet,
      id: "own",
      level: 1,
      seed: seed,
      customer: "A. Reed",
      was: was,
      point: "Measure at the part."
    )
  end

  def stand(*faults, **more)
    described_class::Stand.new(exercise(*faults, **more))
  end

  def acts(stand, *list)
    list.map { |act| stand.act(act) }
  end

  ready = [
    { "kind" => "chock" },
    { "kind" => "lift" },
    { "kind" => "stands" },
    { "kind" => "wheel", "corner" => "front_left", "to" => "off" }
  ].freeze
  pair = { "circuit" => "front_left", "a" => "signal@sensor_plug.far", "b" => "return@sensor_plug.far" }.freeze

  describe "exercises" do
    it "are two dozen at least, in four levels, and their solution cannot be read at a glance" do
      all = described_class::ExerciseBook.all
      expect([all.size >= 24, all.map(&:level).uniq.sort, all.map(&:id).uniq.size]).to eq(
        [true, [1, 2, 3, 4], all.size]
      )
      text = File.read(File.join(Gadwall::ROOT, "data/practice/exercises.yml"))
      leaks = all.select { |each| (each.faults + each.was + [each.point]).any? { |words| text.include?(words) } }
      expect(leaks).to be_empty
    end

    it "each bring a vehicle whose fault somebody would notice" do
      unnoticed =
        described_class::ExerciseBook
          .all
          .each_slice(3)
          .map(&:first)
          .reject do |each|
            vehicle = each.fresh_vehicle.set(key: "on")
            vehicle.ecus.any? { |ecu| ecu.codes.any? } || vehicle.speaking.size < vehicle.ecus.size
          end
      expect(unnoticed.map(&:id)).to be_empty
    end

    it "are drawn by seed without end, the same again for the same seed" do
      drawn = (1..4).map { |seed| described_class::ExerciseBook.find("seed-#{1 + (seed % 4)}-#{seed}") }
      again = (1..4).map { |seed| described_class::Drawn.exercise(1 + (seed % 4), seed) }
      expect(again).to eq(drawn)
      expect(drawn.map(&:faults).uniq.size).to be > 2
    end

    it "say which there are, where one is asked for that is not" do
      expect { described_class::ExerciseBook.find("tractor") }.to raise_error(Gadwall::UnknownNameError, /tractor/)
      expect { described_class::Sealed.open("???") }.to raise_error(Gadwall::InputError, /sealed/)
    end
  end

  describe "the stand" do
    it "gives the same answers to the same acts" do
      list = [
        *ready,
        { "kind" => "unplug", "circuit" => "front_left", "joint" => "sensor_plug" },
        { "kind" => "meter", "range" => "ohms", **pair },
        { "kind" => "scope", "rev_s" => "1", **pair }
      ]
      made = exercise("front_left.sensor.open")
      texts = Array.new(2) { described_class::Stand.replay(made, list).done.map(&:text) }
      expect(texts.first).to eq(texts.last)
    end

    it "shows over limit at an open sensor, and knows the reading as the test that the diagnosis would ask for" do
      bench = stand("front_left.sensor.open@200000000")
      acts(bench, *ready, { "kind" => "unplug", "circuit" => "front_left", "joint" => "sensor_plug" })
      shown = bench.act({ "kind" => "meter", "range" => "ohms", **pair })
      expect([shown.text, shown.test]).to eq(%w[OL front_left.resistance.sensor_plug])
    end

    it "reads nonsense on a live pair in ohms, and takes no such reading for a test" do
      bench = stand("front_left.sensor.open")
      bench.act({ "kind" => "key", "to" => "on" })
      shown = bench.act({ "kind" => "meter", "range" => "ohms", **pair })
      expect([shown.warning, shown.test]).to match([/live circuit/, nil])
    end

    it "blows the meter's fuse across a supply, until a new one is bought" do
      bench = stand("front_left.sensor.open")
      across = {
        "kind" => "meter",
        "circuit" => "abs_module",
        "range" => "amperes",
        "a" => "feed@supply_plug.near",
        "b" => "ground"
      }
      bench.act({ "kind" => "key", "to" => "on" })
      expect(bench.act(across).warning).to include("fuse has blown")
      expect(bench.act(across).warning).to include("fuse is blown")
      spent = bench.money
      bench.act({ "kind" => "fuse" })
      expect([bench.money > spent, bench.act(across).warning]).to match([true, /fuse has blown/])
    end

    it "writes codes for a plug that is pulled with the key on, and none with the key off" do
      codes =
        %w[off on].map do |key|
          bench = stand("brake_switch.switch.never_closes")
          bench.act({ "kind" => "key", "to" => "off" })
          acts(
            bench,
            *ready,
            { "kind" => "key", "to" => key },
            { "kind" => "unplug", "circuit" => "front_left", "joint" => "sensor_plug" },
            { "kind" => "plug", "circuit" => "front_left", "joint" => "sensor_plug" },
            { "kind" => "key", "to" => "on" }
          )
          abs = bench.vehicle.ecu("abs")
          abs.codes.map { |dtc| dtc.word.text }.include?("C0031")
        end
      expect(codes).to eq([false, true])
    end

    it "runs the battery flat with the key on, which breaks a routine off; support holds it" do
      ends =
        %w[off on].map do |support|
          bench = stand("front_left.sensor.open", sheet: van.merge("park_brake" => "caliper_motor"))
          acts(bench, { "kind" => "key", "to" => "on" }, { "kind" => "support", "to" => support })
          70.times { bench.act({ "kind" => "hint" }) }
          bench.act({ "kind" => "routine", "id" => "park_brake_service" }).text
        end
      expect(ends).to match([/battery gave up/, /Done/])
    end

    dangers = {
      "chock" => [{ "kind" => "lift" }],
      "stands" => [
        { "kind" => "chock" },
        { "kind" => "lift" },
        { "kind" => "wheel", "corner" => "front_left", "to" => "off" }
      ]
    }
    dangers.each do |id, list|
      it "ends where #{id} was left out, and says what would have happened" do
        bench = stand("front_left.sensor.open")
        acts(bench, *list)
        expect([bench.ended.id, bench.ended.text.length > 40]).to eq([id, true])
        expect { bench.act({ "kind" => "key", "to" => "on" }) }.to raise_error(Gadwall::InputError)
      end
    end

    hybrid = { "name" => "hybrid", "sensors" => "active", "power" => "hybrid", "booster" => "electric_pump" }
    it "ends at a live high-voltage system, goes on where it was made safe" do
      ways = [[], %w[high_voltage_off], %w[high_voltage_off no_voltage_proven]]
      ends =
        ways.map do |safe|
          bench = stand("accumulator_pump.pump.open", sheet: hybrid)
          acts(bench, *safe.map { |what| { "kind" => "safe", "what" => what } })
          bench.act({ "kind" => "unplug", "circuit" => "accumulator_pump", "joint" => "pump_plug" })
          bench.ended&.id
        end
      expect(ends).to eq(["high_voltage", "no_voltage", nil])
    end

    it "refuses what cannot be, in a sentence, and stays as it was" do
      bench = stand("front_left.sensor.open")
      wrong = [
        { "kind" => "fly" },
        { "kind" => "key", "to" => "sideways" },
        { "kind" => "stands" },
        { "kind" => "meter", "range" => "ohms", "circuit" => "front_left", "a" => "x", "b" => "ground" },
        { "kind" => "meter", "range" => "ohms", **pair, "b" => pair["a"] },
        { "kind" => "unplug", "circuit" => "front_left", "joint" => "sensor_plug" },
        { "kind" => "routine", "id" => "dance" }
      ]
      wrong.each { |act| expect { bench.act(act) }.to raise_error(Gadwall::Error) }
      expect(bench.done).to be_empty
    end

    it "leaves a fault that is not the one, and a lamp for what was not calibrated" do
      bench = stand("front_left.sensor.open")
      bench.act({ "kind" => "mend", "place" => "front_left/ring" }) unless bench.ended
      expect([bench.right?, bench.wrong.size]).to eq([false, 1]) unless bench.ended

      motor = stand("park_brake_left.motor.worn", sheet: van.merge("park_brake" => "caliper_motor"))
      acts(
        motor,
        { "kind" => "chock" },
        { "kind" => "safe", "what" => "park_brake_service" },
        { "kind" => "safe", "what" => "battery_off" },
        { "kind" => "lift" },
        { "kind" => "stands" }
      )
      motor.act({ "kind" => "mend", "place" => "park_brake_left/motor" })
      expect([motor.ended, motor.owed.include?("learn:park_brake"), motor.lamps.any?]).to eq([nil, true, true])
      acts(motor, { "kind" => "support", "to" => "on" }, { "kind" => "key", "to" => "on" }, { "kind" => "clear" })
      motor.act({ "kind" => "routine", "id" => "park_brake_calibrate" })
      expect(motor.owed).not_to include("learn:park_brake")
    end
  end

  describe "instruments" do
    it "read as ngspice would where nothing is noisy: a divider of two resistors (handbook: Ohm's law)" do
      vehicle = Gadwall::Simulator::VehicleUnderTest.new(van, seed: 3).set(key: "on")
      meter = Gadwall::Instruments::Meter.new(vehicle, noise: 0.0)
      harness = vehicle.system.circuit_named("front_left").harness
      values = harness.values
      shown = meter.read("volts", "front_left", %w[signal@near_end return@near_end])
      loop_ohm = values["bias_ohm"] + values["coil_ohm"] + values["input_ohm"]
      expect(shown.value).to be_within(0.02).of(values["bias_volt"] * values["coil_ohm"] / loop_ohm)
    end

    it "show a scope trace that our own analysis finds the lost tooth in" do
      bench = stand("front_left.ring.tooth_lost")
      acts(bench, *ready)
      trace = bench.act({ "kind" => "scope", "rev_s" => "1", **pair }).capture
      found = Gadwall::Signals::WheelSpeed.new(trace, teeth: 48).to_h
      expect(found[:findings].map { |row| row[:kind] }).to eq(["missing_teeth"])
    end

    it "leave what was changed as it is: a plug that was cleaned is clean at the next look" do
      vehicle = exercise("front_left.body_connector.signal.high_resistance@20000").fresh_vehicle.set(key: "on").drive
      circuit = vehicle.system.circuit_named("front_left")
      examiner = described_class::Examiner.new(vehicle, slip: 0.0)
      done =
        %w[body_connector body_connector].map { |at| examiner.perform(circuit, circuit.model.tests["reseat.#{at}"]) }
      expect(done).to eq(%w[gone good])
      expect(vehicle.wiring.hidden.size).to eq(1)
    end

    it "clamp a park-brake motor: inrush above the free run, nothing where it is open" do
      sheet = van.merge("park_brake" => "caliper_motor")
      most =
        [[], ["park_brake_left.motor.open"]].map do |faults|
          vehicle = Gadwall::Simulator::VehicleUnderTest.new(sheet, faults: faults, seed: 2).set(key: "on")
          vehicle.set(command: "apply")
          harness = vehicle.system.circuit_named("park_brake_left").harness
          joint = harness.connectors.last
          sides = %w[near far].map { |side| "#{harness.wires.first.id}@#{joint.id}.#{side}" }
          Gadwall::Instruments::Clamp.new(vehicle).capture("park_brake_left", sides).channels.first.values.max
        end
      expect([most.first > 3.0, most.last < 0.5]).to eq([true, true])
    end
  end

  describe "the solver, by the instruments alone" do
    seeds = ENV["GADWALL_FULL"] ? (1..300) : (501..503)
    it "mends what is hidden and condemns no sound module; one who tests at random does clearly worse" do
      models = CoreHelp::MODELS
      all = seeds.map { |seed| described_class::Drawn.exercise(1 + (seed % 4), seed) }
      solved = all.map { |each| described_class::Solver.new(each, models: models).solve }
      guessed = all.first(2).map { |each| described_class::Solver.new(each, models: models).solve(strategy: "random") }
      right = solved.count(&:right) / all.size.to_f
      tests = [solved.first(2), guessed].map { |list| list.sum { |each| each.steps.size } }
      worse = guessed.count(&:right) / guessed.size.to_f < right || tests.last > tests.first * 1.5
      expect([right >= 0.8, solved.count(&:condemned), worse]).to eq([true, 0, true])
    end
  end

  describe "how it went" do
    # The tests of the advice, done on the stand and entered: Array of Entry.
    def tested(bench, solution)
      solution.steps.each_with_index.map do |step, i|
        bench.act({ "kind" => "test", "test" => step.test })
        circuit, test = bench.system.test(step.test)
        kind = test.numeric? ? Gadwall::Job::Entries::Reading : Gadwall::Job::Entries::Finding
        result = (Gadwall::Observations::Result.of(test, step.typed).to_s unless test.numeric?)
        kind.of(test: "#{circuit.id}.#{test.id}", typed: step.typed, result: result).stamped(
          seq: 60 + i,
          at: nil,
          by: "x"
        )
      end
    end

    def judged(*acts)
      made = exercise("front_left.sensor.open")
      bench = described_class::Stand.new(made)
      acts.each { |act| bench.act(act) }
      bench.act({ "kind" => "finish" }) unless bench.ended
      described_class::Debrief.new(bench, Gadwall::Job::Log.new([], bench.system), nil)
    end

    def reasons(debrief)
      debrief.parts.to_h { |part| [part.id, part.reasons.map(&:first)] }
    end

    safe = %w[chock lift stands].map { |kind| { "kind" => kind } }
    points = pair.merge("circuit" => "front_left")
    {
      "a guess that happens to be right" => [
        [*safe, { "kind" => "mend", "place" => "front_left/sensor" }],
        "method",
        /guess/
      ],
      "codes cleared first" => [[{ "kind" => "key", "to" => "on" }, { "kind" => "clear" }], "method", /cleared before/],
      "a connector pulled with the key on" => [
        [
          { "kind" => "key", "to" => "on" },
          { "kind" => "unplug", "circuit" => "front_left", "joint" => "body_connector" }
        ],
        "safety",
        /pulled with the key on/
      ],
      "ohms on a live wire" => [
        [{ "kind" => "key", "to" => "on" }, { "kind" => "meter", "range" => "ohms", **points }],
        "safety",
        /live wire/
      ]
    }.each do |name, (list, part, words)|
      it "is judged for #{name}" do
        expect(reasons(judged(*list)).fetch(part)).to include(a_string_matching(words))
      end
    end

    it "is judged by points that an instructor changes, within a hundred" do
      counts = { "repaired_by_guess" => 1, "hint" => 9 }
      lost = ->(rubric) { rubric.judge(counts).sum { |part| part.of - part.points } }
      expect(lost[described_class::Rubric.new]).to eq(35) # 15 and six of five, no more than the part holds
      expect(lost[described_class::Rubric.new({ "repaired_by_guess" => 3, "hint" => "0" })]).to eq(3)
      expect { described_class::Rubric.new({ "hint" => "many" }) }.to raise_error(Gadwall::InputError, /0 to 100/)
      expect { described_class::Rubric.new({ "luck" => 1 }) }.to raise_error(Gadwall::UnknownNameError)
      expect(described_class::Rubric::PARTS.values.sum).to eq(100)
    end

    it "costs for a part that was condemned without proof, and says so" do
      made = exercise("front_left.sensor_plug.signal.high_resistance")
      bench = described_class::Stand.new(made)
      acts(bench, { "kind" => "chock" }, { "kind" => "lift" }, { "kind" => "stands" })
      bench.act({ "kind" => "mend", "place" => "front_left/sensor" })
      bench.act({ "kind" => "finish" })
      log = Gadwall::Job::Log.new(described_class::Solver.intake(made, made.fresh_vehicle), bench.system)
      debrief =
        described_class::Debrief.new(bench, log, described_class::Solver.new(made, models: CoreHelp::MODELS).solve)
      expect([debrief.wrong.size, debrief.condemned.size, debrief.score < 40]).to eq([1, 1, true])
      expect([debrief.lessons.size, debrief.lessons.first]).to eq([3, "Measure at the part."])
    end

    it "is nothing where a danger ended it, and a hundred where all was done by advice" do
      made = exercise("front_left.sensor.open")
      solution = described_class::Solver.new(made, models: CoreHelp::MODELS).solve
      bench = described_class::Stand.new(made)
      bench.act({ "kind" => "lift" })
      log = Gadwall::Job::Log.new([], bench.system)
      expect(described_class::Debrief.new(bench, log, solution).score).to eq(0)

      bench = described_class::Stand.new(made)
      acts(bench, { "kind" => "chock" }, { "kind" => "lift" }, { "kind" => "stands" })
      read = tested(bench, solution)
      acts(
        bench,
        { "kind" => "mend", "place" => "front_left/sensor" },
        { "kind" => "clear" },
        { "kind" => "lower" },
        { "kind" => "drive" },
        { "kind" => "read", "module" => made.fresh_vehicle.ecus.first.request_id.to_s },
        { "kind" => "finish" }
      )
      log = Gadwall::Job::Log.new(described_class::Solver.intake(made, made.fresh_vehicle) + read, bench.system)
      debrief = described_class::Debrief.new(bench, log, solution)
      expect(debrief.parts.flat_map(&:reasons)).to eq([])
      expect([debrief.score, debrief.forgotten]).to eq([100, []])

      unproven = described_class::Stand.new(made)
      acts(unproven, *%w[chock lift stands].map { |kind| { "kind" => kind } })
      acts(unproven, { "kind" => "mend", "place" => "front_left/sensor" }, { "kind" => "finish" })
      debrief = described_class::Debrief.new(unproven, log, solution)
      expect([debrief.score < 100, debrief.lessons.last]).to eq([true, "No test drive after the repair."])
    end

    it "counts the way to the test point with the test, and not the repair" do
      made = exercise("front_left.sensor.open")
      bench = described_class::Stand.new(made)
      acts(bench, *ready)
      id = "front_left.resistance.sensor_plug"
      bench.act({ "kind" => "test", "test" => id })
      bench.act({ "kind" => "mend", "place" => "front_left/sensor" })
      bench.act({ "kind" => "finish" })
      kind = Gadwall::Job::Entries::Reading
      read = kind.of(test: id, typed: "OL", result: nil).stamped(seq: 90, at: nil, by: "x")
      intake = described_class::Solver.intake(made, made.fresh_vehicle)
      debrief = described_class::Debrief.new(bench, Gadwall::Job::Log.new(intake + [read], bench.system), nil)
      hands = described_class::Debrief::HANDS
      spent = bench.done.select { |each| hands.include?(each.kind) }.sum(&:minutes)
      expect([debrief.path.map(&:minutes), spent > bench.system.test(id).last.minutes, spent < bench.minutes]).to eq(
        [[spent], true, true]
      )
    end
  end
end
