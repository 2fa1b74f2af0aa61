# frozen_string_literal: true

# What the diagnosis is told (a network factorised once, faults as changes) against the plain solver and against
# ngspice, for every template in every state that its tests, monitors and rules use, sound and with every kind of fault.
RSpec.describe Gadwall::Circuits::Reader do
  # The reading by the solver alone.
  def long_way(line, test, condition, ampere)
    net, a, b = asked(line, test, condition, ampere)
    return Gadwall::Circuits::Solver.ohms(net, a, b) if test.kind == "ohms"

    reading(test, net, a, b, Gadwall::Circuits::Solver.solve(net).volts(a, b))
  end

  # The readings by ngspice alone. questions: Array of [test, condition, ampere].
  def by_spice(line, questions)
    asked = questions.map { |test, condition, ampere| asked(line, test, condition, ampere) }
    nets =
      asked.zip(questions).map { |(net, a, b), (test, *)| test.kind == "ohms" ? fed_by_an_ohmmeter(net, a, b) : net }
    Spice
      .all_node_voltages(nets)
      .each_with_index
      .map do |volts, i|
        net, a, b = asked[i]
        all = volts.merge("ground" => 0.0)
        reading(questions[i].first, net, a, b, all.fetch(a) - all.fetch(b))
      end
  end

  # The faulty network with the meter at its probes; and the two nodes.
  def asked(line, test, condition, ampere)
    net = LongWay.faulty_network(line, test.state, condition, ampere)
    a, b = test.probes.map { |probe| line.node(probe) }
    net.resistor("meter", a, b, 1e7) if test.kind == "volts"
    [net, a, b]
  end

  def reading(test, net, a, b, volts)
    case test.kind
    when "ohms"
      volts / 1e-3
    when "amperes"
      volts / net.elements.find { |element| [element.a, element.b] == [a, b] && element.respond_to?(:ohm) }.ohm
    else
      volts
    end
  end

  def fed_by_an_ohmmeter(net, a, b)
    dead =
      Gadwall::Circuits::Network.new(
        net.elements.map do |element|
          if element.respond_to?(:volt)
            Gadwall::Circuits::Network::Resistor.new(id: element.id, a: element.a, b: element.b, ohm: element.ohm)
          else
            element
          end
        end
      )
    dead.current_source("meter", b, a, 1e-3)
    dead
  end

  # Within 1e-6. Above the ohmmeter's limit (60 Mohm) both must be over it: beside wires of 0.01 ohm, an insulation of
  # gigaohms keeps some five digits in any double-precision matrix, ngspice's too.
  def expect_same(test, ours, theirs)
    limit = catalogue.meter("ohm").limit
    return expect(ours).to(be > limit, "#{test.id}: #{ours} against #{theirs}") if test.kind == "ohms" && theirs > limit

    expect(ours).to be_within([theirs.abs * 1e-6, 2e-6].max).of(theirs), "#{test.id}: #{ours} against #{theirs}"
  end

  def conditions(model)
    model
      .faults
      .group_by(&:effect)
      .flat_map do |_, faults|
        fault = faults.last
        [fault.severities.first, fault.severities.last].map do |severity, _|
          Gadwall::Circuits::Effect.condition(model.harness, fault, severity)
        end
      end
      .uniq(&:object_id)
  end

  # Every measurement that a template's number tests, monitors and rules ask for: [kind, state, probes], each once.
  def measurements(model)
    asked = model.tests.values.select(&:numeric?).map { |test| [test.kind, test.state, test.probes] }
    ruled =
      model
        .tests
        .values
        .select { |test| test.kind == "watch" }
        .flat_map { |test| test.record["rules"].filter_map { |rule| measured(rule, test.state) } }
    monitored =
      model.harness.template["monitors"]
        .reject { |rule| rule["each"] }
        .filter_map do |rule|
          measured(rule.merge("volts" => rule["probes"]).compact, Gadwall::Circuits::Harness::State.of)
        end
    (asked + ruled + monitored).uniq.map do |kind, state, probes|
      Gadwall::Tests::Test.new(
        id: "#{kind} #{state.to_a} #{probes}",
        kind: kind,
        state: state,
        probes: probes,
        record: {
        }
      )
    end
  end

  def measured(rule, state)
    kind = %w[volts ohms amperes].find { |name| rule[name] } or return nil
    [kind, state.with(rule["state"] || {}), rule[kind]]
  end

  # A few of them for each state.
  def some_in_every_state(model)
    measurements(model)
      .group_by { |test| [test.kind, test.state] }
      .values
      .flat_map { |tests| [tests.first, tests.last].uniq }
  end

  catalogue = Gadwall::Knowledge.catalogue
  catalogue.circuits.each_key do |id|
    next if catalogue.circuits[id]["elements"].empty?

    describe "#{id.tr("_", " ")} line" do
      let(:line) { Gadwall::Circuits::Harness.new(catalogue.circuits[id], {}, catalogue) }
      let(:model) { Gadwall::Tests::CircuitModel.new(line, catalogue) }
      let(:levels) { line.sink ? line.sink_levels : [0.0] }

      it "reads what the plain solver reads, in every state, with every kind of fault" do
        some_in_every_state(model).each do |test|
          reader = described_class.new(line, test.state)
          [Gadwall::Circuits::Condition::SOUND, *conditions(model)].each do |condition|
            ampere = test.state.key == "on" ? levels.last : 0.0
            expect_same(
              test,
              reader.read(test.kind, test.probes, condition, ampere: ampere),
              long_way(line, test, condition, ampere)
            )
          end
        end
      end

      # Outside check: ngspice (Debian package) on every circuit state used, sound, broken and bridged.
      it "agrees with ngspice to 1e-6 in every state", :outside do
        some = [Gadwall::Circuits::Condition::SOUND, conditions(model)[1], conditions(model).last].compact
        questions =
          some_in_every_state(model)
            .product(some)
            .map { |test, condition| [test, condition, test.state.key == "on" ? levels.last : 0.0] }
        questions
          .zip(by_spice(line, questions))
          .each do |(test, condition, ampere), theirs|
            expect_same(
              test,
              described_class.new(line, test.state).read(test.kind, test.probes, condition, ampere: ampere),
              theirs
            )
          end
      end
    end
  end

  it "joins two faults of one line" do
    line = system_with("passive").circuits.first.harness
    both =
      Gadwall::Circuits::Condition.new(series: { "signal@body_connector" => 1000.0 }) +
        Gadwall::Circuits::Condition.new(series: { "coil" => 500.0 })
    state = Gadwall::Circuits::Harness::State.of(disconnected: ["module_plug"])
    expect(
      described_class.new(line, state).read("ohms", %w[signal@module_plug.far return@module_plug.far], both)
    ).to be_within(1).of(1100 + 1500)
  end
end
