# frozen_string_literal: true

# What one fault makes of circuits that are sound: a low supply leaves codes, a lit lamp is no sign of the place that
# was touched, a silent module is silent once. Facts of the trade, as laws.
RSpec.describe "Consequences in other circuits" do
  let(:active) { system_with("active", stability: "yes") }

  def chances(*entries)
    posterior = assess(active, *entries).posterior
    posterior.circuits.transform_values { |weights| posterior.circuit_probability(weights.circuit) }
  end

  def codes(*lines, modules: { "ABS" => true })
    rows = lines.map { |line| Gadwall::TroubleCodes::CodeReader.row_of(line) }
    answered = modules.map { |name, there| { "name" => name, "answered" => there } }
    { "kind" => "scan", "modules" => answered, "codes" => rows }
  end

  def lamps(*ids, time: nil)
    { "kind" => "lamps", "lit" => ids.map { |id| { "lamp" => id, "when" => time }.compact }, "out" => [] }
  end

  describe "a low supply" do
    let(:low) { "supply voltage too low history" }
    let(:wheels) do
      %w[left right].flat_map do |side|
        %w[front rear].map { |axle| "#{axle} #{side} wheel speed sensor signal implausible history" }
      end
    end

    it "is the likelier, the more wheels have a code along with its own" do
      shares = (0..4).map { |count| chances(lamps("abs"), codes(low, *wheels.first(count)))["abs_module"] }
      expect(shares.each_cons(2)).to all(satisfy { |fewer, more| more > fewer - 0.12 })
      expect(shares.last).to be > 0.7
    end

    it "is not called in where no code of its own says so" do
      without = chances(lamps("abs"), codes(*wheels))
      expect(without["abs_module"]).to be < 0.05
    end

    it "explains no open circuit, which a module sees whatever its supply" do
      open = chances(lamps("abs"), codes(low, "C0031-13 history"))
      odd = chances(lamps("abs"), codes(low, "C0031-62 history"))
      expect(open["abs_module"] / open["front_left"]).to be < odd["abs_module"] / odd["front_left"]
    end
  end

  describe "a warning that others light" do
    let(:told) { [lamps("abs"), codes("C0034-13 current")] }

    it "says next to nothing of a connector that was cleaned without effect" do
      before = chances(*told)["rear_left"]
      after = chances(*told, finding("rear_left.reseat.sensor_plug", "same"))["rear_left"]
      expect(after).to be_between(before / 2, before * 2)
    end

    it "leaves what goes with a cleaned connector as strong a sign as any" do
      gone = assess(active, lamps("abs"), codes("C0034-13 current"), finding("front_right.reseat.sensor_plug", "gone"))
      expect(gone.posterior.places.keys.first).to eq("front_right/sensor_plug")
    end

    it "accuses no place by a warning that stays" do
      assessment = assess(active, *told, finding("front_right.reseat.sensor_plug", "same"))
      expect(assessment.coverage.accusing("front_right", "sensor")).to be_empty
      gone = assess(active, *told, finding("front_right.reseat.sensor_plug", "gone"))
      expect(gone.coverage.accusing("front_right", "sensor_plug").size).to eq(1)
    end
  end

  describe "a silent module" do
    let(:told) { [lamps("abs"), codes("U0121 current", modules: { "ABS" => false, "cluster" => true })] }

    it "leaves its bus a part of the blame, and its supply the greater one" do
      found = chances(*told)
      expect(found["chassis_bus"]).to be_between(0.05, 0.45)
      expect(found["abs_module"]).to be > found["chassis_bus"]
    end

    it "is missed by a network scan for want of power as for want of a bus" do
      before = chances(*told)
      after = chances(*told, finding("chassis_bus.who_answers", "some"))
      ratio = ->(found) { found["abs_module"] / found["chassis_bus"] }
      expect(ratio.call(after)).to be_between(ratio.call(before) / 2, ratio.call(before) * 2)
    end

    it "is looked for at its supply first" do
      expect(assess(active, *told).next_tests.first(3).map { |option| option.circuit.id }).to include("abs_module")
    end
  end

  it "takes old codes that work has left for little" do
    said = { "kind" => "symptoms", "ids" => ["battery_work"] }
    old = codes("supply voltage too low history")
    expect(chances(said, old)["abs_module"]).to be < 0.5 * chances(old)["abs_module"]
    now = codes("supply voltage too low current")
    expect(chances(said, now)["abs_module"]).to be > 0.9
  end

  it "clears codes only where one stands" do
    ids = assess(active, lamps("abs")).next_tests.map(&:id)
    expect(ids.grep(/clear_codes/)).to be_empty
    ids = assess(active, lamps("abs"), codes("C0031-62 history")).next_tests.map(&:id)
    expect(ids.grep(/clear_codes/)).to eq(["front_left.clear_codes"])
  end

  # Mutual information, worked out the long way: a row for each place, and one for all else.
  it "tells in bits what a table of all places tells" do
    told = [codes("C0031-13 current"), reading("front_left.feed_volts.body_connector", "12.1")]
    posterior = assess(active, *told).posterior
    circuit = active.circuit_named("front_left")
    beliefs = posterior.beliefs(circuit)
    beside = posterior.bodies.beside(circuit)
    circuit.model.tests.each_value do |test|
      table = posterior.table(circuit, test)
      rows =
        beliefs
          .columns(table, merged: true)
          .to_h do |place, columns|
            sums = table.rows[0].map { |chance| chance * columns.unmet }
            columns
              .always_atoms
              .zip(columns.always) do |i, p|
                table.rows[table.row_of.getbyte(i)].each_with_index { |chance, bin| sums[bin] += p * chance }
              end
            columns
              .met_atoms
              .zip(columns.met) do |i, p|
                table.rows[table.caught_row_of.getbyte(i)].each_with_index { |chance, bin| sums[bin] += p * chance }
              end
            more = beside.fetch(place, 0.0)
            [place, sums.each_with_index.map { |sum, bin| sum + (more * table.rows[0][bin]) }]
          end
      rest = 1 - beliefs.total - beside.slice(*rows.keys).values.sum
      rows["rest"] = table.rows[0].map { |chance| chance * rest }
      expect(Gadwall::Diagnosis::JointTable.new(posterior, circuit, test).bits).to be_within(1e-9).of(
        Gadwall::Diagnosis::Information.mutual(rows.values)
      ),
      test.id
    end
  end
end
