# frozen_string_literal: true

require_relative "figures"
require_relative "../evaluation/boot"

# How long the core takes: an assessment, a network, a circuit never seen before.
class Assessments
  # A passenger car with nearly everything.
  FULL = {
    "name" => "bench",
    "sensors" => "active",
    "park_brake" => "caliper_motor",
    "stability" => "yes",
    "booster" => "electric_pump",
    "single_wire" => "yes",
    "towing" => "trailer_brake_module",
    "pad_wear_front" => "two",
    "pad_wear_rear" => "one"
  }.freeze
  READINGS = {
    "passive" => %w[resistance.body_connector OL resistance.sensor_plug 1.1k],
    "active" => %w[feed_volts.body_connector 12.0 feed_volts.sensor_plug 0.4]
  }.freeze

  def initialize(figures)
    @figures = figures
    @models = Gadwall::Vehicle::ModelCache.new
  end

  def run
    READINGS.each { |kind, readings| small(kind, readings) }
    full_car
    networks
    first_look
  end

  private

  def system(sheet)
    Gadwall::Vehicle::System.build(Gadwall::Vehicle::Sheet.new(sheet), models: @models)
  end

  def body(system, *rows)
    scan = {
      "kind" => "scan",
      "modules" => [{ "name" => "ABS" }],
      "codes" => [{ "code" => "C0031", "failure_type" => "13", "status" => "2F" }]
    }
    Gadwall::Job::Log.new([scan, *rows], system).body
  end

  def small(kind, readings)
    four = system("name" => "bench", "sensors" => kind)
    rows =
      readings
        .each_slice(2)
        .map { |test, value| { "kind" => "reading", "test" => "front_left.#{test}", "reading" => value } }
    evidence = body(four, *rows)
    corner = four.narrowed_to("front_left", Gadwall::Vehicle::MODULE)
    @figures.median("assessment of one corner, #{kind}", 10) { Gadwall::Diagnosis.assess(corner, evidence) }
    @figures.median("assessment of four corners and the module's supply, #{kind}", 30) do
      Gadwall::Diagnosis.assess(four, evidence)
    end
  end

  # Two hidden faults, thirty tests done with what a meter would have shown.
  def full_car
    full = system(FULL)
    compiled = Benchmark.realtime { full.circuits.each { |circuit| circuit.model.prepare } }
    @figures.say(
      "full car: #{full.circuits.size} circuits, #{full.fault_ids.size} single faults, #{full.test_ids.size} tests; " \
        "all tables made once in #{format("%.1f", compiled)} s"
    )
    evidence = everything(full)
    @figures.median("full assessment of that car with 30 observations, tests ranked (aim 30)", 100) do
      Gadwall::Diagnosis.assess(full, evidence)
    end
  end

  def everything(full)
    random = Random.new(3)
    truth = %w[front_left.wire_feed.body_connector_to_sensor_plug.open brake_switch.switch.contact_worn]
    vehicle = Gadwall::Evaluation::OwnCircuits::SimulatedVehicle.new(full, truth: truth, random: random)
    tests = full.test_ids.sample(30, random: random).map { |id| full.test(id) }
    observations =
      tests.each_with_index.map do |(circuit, test), i|
        result = vehicle.perform(circuit, test)
        Gadwall::Observations::Observation.new(seq: i + 1, circuit: circuit, test: test, result: result, typed: "")
      end
    Gadwall::Observations::Body.new(observations: observations, scans: [vehicle.scan])
  end

  # Each circuit's key-on state with every fault in it: by a change of rank one, by a dense factorisation each, and by
  # ngspice in one run.
  def networks
    all = system(FULL).circuits.map(&:model).uniq.flat_map { |model| faulty(model) }
    readers = {}
    @figures.median("#{all.size} faulty networks by changes of rank one", 400, times: 3) do
      readers.clear
      all.each do |harness, state, node, condition|
        reader = readers[harness] ||= Gadwall::Circuits::Reader.new(harness, state)
        reader.read("volts", [node, "ground"], condition)
      end
    end
    beside(all) if Kernel.system("command -v ngspice > /dev/null")
    harness, state = all.first
    network = harness.network(state)
    @figures.median("one solved network", 5) { Gadwall::Circuits::Solver.solve(network) }
  end

  def faulty(model)
    return [] if model.harness.template["elements"].empty?

    state = Gadwall::Circuits::Harness::State.of(key: "on")
    node = "#{model.harness.wires.first.id}@#{model.harness.connectors.last.id}.near"
    conditions = model.atoms.map(&:condition).uniq.select { |condition| condition.settings.empty? }
    conditions.map { |condition| [model.harness, state, node, condition] }
  end

  def beside(all)
    require_relative "../spec/support/core/spice"
    require_relative "../spec/support/core/long_way"
    built = all.map { |harness, state, _, condition| LongWay.faulty_network(harness, state, condition, 0.0) }
    solved = Benchmark.realtime { built.each { |network| Gadwall::Circuits::Solver.solve(network) } }
    spiced = Benchmark.realtime { Spice.solve_together(built) }
    @figures.say(
      "the same #{all.size} networks, each factorised: #{format("%.0f", solved * 1000)} ms; by ngspice in one run: " \
        "#{format("%.0f", spiced * 1000)} ms"
    )
  end

  def first_look
    @figures.median("first look at a new vehicle (nothing computed before)", 1000, times: 1) do
      cold = Gadwall::Vehicle::System.build(Gadwall::Vehicle::Sheet.new("name" => "bench", "sensors" => "active"))
      Gadwall::Diagnosis.assess(cold, body(cold))
    end
  end
end
