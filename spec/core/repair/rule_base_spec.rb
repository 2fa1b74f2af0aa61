# frozen_string_literal: true

require "spec_helper"

# What a wrong rule says when the rules are loaded, and that the order of the steps is what it must be.
RSpec.describe Gadwall::Repair::RuleBase do
  let(:vocabulary) { described_class.of(catalogue).vocabulary }

  def rule(id, **fields)
    { "id" => id, "phase" => "work", "for" => ["always"], "does" => [] }.merge(fields.transform_keys(&:to_s))
  end

  def base(*rules)
    described_class.new(rules, vocabulary, ["lifting"])
  end

  it "names the rules that follow one another in a circle" do
    rules = [
      rule("a", after: ["b"]),
      rule("b", after: ["zero:battery"]),
      rule("c", does: ["zero:battery"], after: ["a"])
    ]
    expect { base(*rules) }.to raise_error(Gadwall::KnowledgeError, /a, b, c|a.*b.*c.*circle/)
  end

  {
    { for: ["opens:window"] } => /'opens:window' is no word/,
    { for: ["prove:insulation"] } => /touched by no row and done by no step/,
    { does: ["sings:songs"] } => /'sings:songs' is no word/,
    { after: ["nobody"] } => /'nobody' is no rule and no word/,
    { phase: "lunch" } => /is lunch, expected one of read, match/,
    { without: ["prove:insulation"] } => /depends on other steps/,
    { cautions: ["mood"] } => /'mood' is no caution/,
    { asks: [{ "id" => "x", "low" => 3, "high" => 1 }] } => /low above high/,
    { asks: [{ "id" => "x", "low" => 0, "high" => 1, "near" => "y" }] } => /'y' is not asked for/
  }.each do |fields, sentence|
    it "refuses a rule with #{fields}" do
      expect { base(rule("odd", **fields)) }.to raise_error(Gadwall::KnowledgeError, sentence)
    end
  end

  it "has a version that changes with every rule" do
    one = base(rule("a"))
    expect(base(rule("a")).version).to eq(one.version)
    expect(base(rule("a", text: "other")).version).not_to eq(one.version)
  end

  # Laws of the order over seeded partial orders: every edge holds, every step once, and phases are followed wherever
  # no edge asks for something else.
  100.times do |seed|
    it "sorts by what follows what, then by phase (seed #{seed})" do
      random = Random.new(seed)
      ids = (1..12).map { |i| "s#{i}" }.shuffle(random: random)
      follows = ids.each_with_index.to_h { |id, i| [id, ids.first(i).select { random.rand < 0.15 }] }
      phases = ids.to_h { |id| [id, random.rand(5)] }
      order = Gadwall::Repair::Ordering.sort(follows, phases)
      expect(order.sort).to eq(ids.sort)
      follows.each { |id, before| before.each { |each| expect(order.index(each)).to be < order.index(id) } }
      free = follows.transform_values { [] }
      sorted = Gadwall::Repair::Ordering.sort(free, phases)
      expect(sorted.map { |id| phases[id] }).to eq(phases.values.sort)
    end
  end
end

RSpec.describe Gadwall::Repair::DriveLegs do
  # The fewest legs, against every way to group them (handbook: interval stabbing, from memory).
  60.times do |seed|
    it "needs as few legs as brute force (seed #{seed})" do
      random = Random.new(seed)
      demands =
        Array.new(random.rand(1..6)) do
          low = random.rand(0..60)
          described_class::Demand.new(speed: [low, low + random.rand(5..40)], stops: 0)
        end
      groups = described_class.groups(demands)
      groups.each do |low, high, group|
        expect(low).to be < high
        group.each { |each| expect([each.speed.first <= low, high <= each.speed.last]).to eq([true, true]) }
      end
      expect(groups.sum { |_, _, group| group.size }).to eq(demands.size)
      expect(groups.size).to eq(fewest(demands))
    end
  end

  # Points that lie inside every demand: the fewest of all candidate points.
  def fewest(demands)
    points = demands.map { |each| each.speed.last - 0.5 }
    (1..demands.size).find do |count|
      points
        .combination(count)
        .any? do |chosen|
          demands.all? { |each| chosen.any? { |point| point > each.speed.first && point < each.speed.last } }
        end
    end
  end
end

RSpec.describe Gadwall::Repair::Figures do
  step = ->(id) do
    Gadwall::Repair::Step.of(
      Gadwall::Repair::RuleBase.of(Gadwall::Knowledge.catalogue)[id],
      Gadwall::Repair::WordList.new(%w[renews:sensor]),
      Gadwall::Knowledge.catalogue,
      sheet: Gadwall::Vehicle::Sheet.new({})
    )
  end

  def sound(step, **other)
    given = Demo::SignOff.values(step)
    [given[:figures].merge(other.transform_keys(&:to_s)), given[:ticks]]
  end

  # HV-01 of the reference values: dangerous above 60 V DC; zero means zero.
  {
    "2.4" => nil,
    "28" => /Stop: something still feeds it/,
    "61" => /Not dead: above 60 V DC/,
    "390" => /Not dead/,
    "" => /from 0 to 3 V/,
    "none" => /from 0 to 3 V/
  }.each do |typed, sentence|
    it "judges #{typed.inspect} V between P and N" do
      figures, ticks = sound(step.call("high_voltage_zero"), plus_minus: typed)
      entered = -> { step.call("high_voltage_zero").entered(figures, ticked: ticks) }
      if sentence
        expect(&entered).to(raise_error(Gadwall::InputError, sentence))
      else
        expect(entered.call["plus_minus"]).to(eq(typed))
      end
    end
  end

  # A figure is taken as a good meter shows it: above the least is sound, whatever stands there.
  {
    "wire_measured" => {
      "insulation" => {
        sound: ["OL", "ol", "60", "1", "999", "1.2G", "60M", ">60", ">60M", "60 Mohm"],
        wrong: ["0.4", "<1", "400k", "x", ""]
      },
      "core" => {
        sound: %w[0.1 0.00 -0.02 <0.1 0,2 0.1ohm],
        wrong: %w[0.5 OL >0.1 -0.5]
      }
    },
    "hv_insulation" => {
      "insulation" => {
        sound: %w[OL 5M 550 >1000 41],
        wrong: %w[39 100ohm]
      }
    },
    "supply_proven" => {
      "ground_drop" => {
        sound: %w[0.03 -0.01 0 30m],
        wrong: %w[0.4 12 OL]
      }
    }
  }.each do |id, asks|
    asks.each do |ask, texts|
      texts[:sound].each do |typed|
        it "takes #{typed.inspect} for #{ask} of #{id}" do
          figures, ticks = sound(step.call(id), ask => typed)
          expect(step.call(id).entered(figures, ticked: ticks)[ask]).to eq(typed)
        end
      end
      texts[:wrong].each do |typed|
        it "refuses #{typed.inspect} for #{ask} of #{id}" do
          figures, ticks = sound(step.call(id), ask => typed)
          expect { step.call(id).entered(figures, ticked: ticks) }.to raise_error(Gadwall::InputError, /Enter/)
        end
      end
    end
  end

  it "refuses a meter that does not show its source again" do
    figures, ticks = sound(step.call("high_voltage_zero"), source_before: "12.4", source_after: "9.4")
    expect { step.call("high_voltage_zero").entered(figures, ticked: ticks) }.to raise_error(/within 10 %/)
  end

  it "refuses a torque 5 percent off the manufacturer's until said why" do
    torque = step.call("wheel_torque")
    figures, ticks = sound(torque, bolts_maker: "120", bolts_set: "127")
    expect { torque.entered(figures, ticked: ticks) }.to raise_error(/within 5 %.*say why it differs/)
    kept = torque.entered(figures.merge("reason" => "steel wheel, plate says 127"), ticked: ticks)
    expect(kept).to include("bolts_set" => "127", "reason" => /steel wheel/)
    expect(torque.entered(figures.merge("bolts_set" => "125"), ticked: ticks)["bolts_set"]).to eq("125")
  end

  it "wants every tick, and says which is missing" do
    gate = step.call("yard")
    expect { gate.entered({}, ticked: %w[pedal lights lamp]) }.to raise_error(/Park brake holds/)
    expect(gate.entered({}, ticked: %w[pedal lights lamp park_brake])).to eq({})
  end

  # UN R100: 500 ohm for each volt where AC is joined: 200 kohm at 400 V, 400 kohm at 800 V.
  { "400" => [%w[200 210 OL], %w[199 100]], "800" => [%w[400 5M], %w[200 399]] }.each do |volt, (sound, wrong)|
    it "judges the insulation of a system of #{volt} V" do
      judged = ->(typed) do
        figures, ticks = sound(step.call("hv_insulation"), system_voltage: volt, insulation: typed)
        step.call("hv_insulation").entered(figures, ticked: ticks)
      end
      expect(sound.map { |typed| judged.call(typed)["insulation"] }).to eq(sound)
      wrong.each { |typed| expect { judged.call(typed) }.to raise_error(Gadwall::InputError, /0.5 kohm for each/) }
    end
  end

  it "takes no disc below the least that is cast on it" do
    disc = Gadwall::Repair::RuleBase.of(Gadwall::Knowledge.catalogue)["renew_pads"].record["asks"]
    expect(disc.map { |ask| ask["id"] }).to eq(%w[disc_least disc])
    figures, ticks = sound(step.call("renew_pads"), disc_least: "20", disc: "19.9")
    expect { step.call("renew_pads").entered(figures, ticked: ticks) }.to raise_error(
      Gadwall::InputError,
      /at least 'Least thickness, cast on the disc' \(20\)/
    )
  end

  it "compares old and new part, and wants a reason for a difference" do
    match = step.call("match_part")
    expect { match.entered({ "number.old" => "A 10", "number.new" => "A 11" }) }.to raise_error(/say why it fits/)
    expect { match.entered({ "number.old" => "A 10" }) }.to raise_error(/old and on the new part/)
    kept =
      match.entered(
        {
          "number.old" => "A 10",
          "number.new" => "a-10",
          "side.old" => "L",
          "side.new" => "R",
          "side.reason" => "sold for both"
        }
      )
    expect(kept).to include("number.new" => "a-10", "side.reason" => "sold for both")
  end

  it "takes the same tooth count only" do
    teeth = step.call("match_teeth")
    expect { teeth.entered({ "teeth_old" => "48", "teeth" => "47" }) }.to raise_error(/same as 'Teeth or poles, old'/)
    expect(teeth.entered({ "teeth_old" => "48", "teeth" => "48" })).to eq({ "teeth_old" => "48", "teeth" => "48" })
  end
end

RSpec.describe Gadwall::Verification::CleanTrips do
  # IN-02 (handbook: rule of three, from memory): one trip in four, eleven clean trips (0.75^11 = 0.0422).
  { 0.25 => 11, 0.5 => 5, 0.1 => 29, 0.05 => 59, 1.0 => 1 }.each do |p, trips|
    it "IN-02: needs #{trips} clean trips for a fault on #{p} of them" do
      expect(described_class.needed(p)).to eq(trips)
      expect(p == 1 || ((1 - p)**trips <= 0.05 && (1 - p)**(trips - 1) > 0.05)).to be(true)
    end
  end

  it "leaves a rate below 3/n after n clean trips (rule of three)" do
    [10, 30, 100].each { |n| expect(described_class.still_possible(n)).to be_within(0.15 * 3.0 / n).of(3.0 / n) }
  end

  it "refuses what is no share" do
    [0, -1, 1.2, nil].each { |p| expect { described_class.needed(p) }.to raise_error(Gadwall::InputError) }
  end
end

RSpec.describe Gadwall::Repair::ParameterSets do
  rows = [{ "name" => "axle ratio", "value" => "3.73" }, { "name" => "tyre", "value" => "2010", "unit" => "mm" }]
  {
    "JSON object" => '{"axle ratio": 3.73, "tyre": "2010"}',
    "JSON list" => '[{"name":"axle ratio","value":"3.73"},{"name":"tyre","value":"2010","unit":"mm"}]',
    "CSV" => "name;value;unit\naxle ratio;3.73;\ntyre;2010;mm\n",
    "typed lines" => "axle ratio = 3.73\ntyre: 2010\n"
  }.each do |kind, text|
    it "reads #{kind}" do
      read = described_class.read(text)
      expect(read.map { |row| row.slice("name", "value") }).to eq(rows.map { |row| row.slice("name", "value") })
    end
  end

  {
    "" => /empty/,
    "axle ratio" => /line 1.*name = value/,
    "a = 1\nA = 2" => /stands twice/,
    "{\"a\": " => /JSON/,
    "name,value\n,4" => /line 2.*a name and a value/
  }.each do |text, sentence|
    it "refuses #{text.inspect}" do
      expect { described_class.read(text) }.to raise_error(Gadwall::InputError, sentence)
    end
  end

  it "compares three ways, line by line" do
    sets = {
      "old_module" => [
        { "name" => "laden mass", "value" => "24000", "unit" => "kg" },
        { "name" => "teeth", "value" => "80" }
      ],
      "plate" => [{ "name" => "Laden mass", "value" => "24000", "unit" => "kg" }],
      "new_module" => [
        { "name" => "teeth", "value" => "100" },
        { "name" => "Laden mass", "value" => "24000", "unit" => "kg" }
      ]
    }
    lines = described_class.compare(sets)
    expect(lines.map { |line| [line.name, line.differs] }).to eq([["laden mass", false], ["teeth", true]])
    expect(lines.last.values).to eq("old_module" => "80", "plate" => nil, "new_module" => "100")
  end
end

RSpec.describe Gadwall::Decision::Shop do
  it "keeps only figures that are the workshop's own" do
    row = catalogue.repairs["new_sensor"]
    same = { "price" => row["price"].to_s, "hours" => row["hours"].to_s }
    shop, errors =
      described_class.typed(
        {
          "rate" => "82,5",
          "currency" => "cr",
          "edits" => {
            "new_sensor" => same,
            "new_ring" => {
              "price" => "120",
              "hours" => "1.8"
            }
          }
        },
        catalogue
      )
    expect([errors, shop.rate, shop.edits.keys]).to eq([{}, 82.5, %w[new_ring]])
    expect(shop.priced(catalogue.repairs["new_ring"])["price"]).to eq(120)
    expect(described_class.from_h(JSON.parse(JSON.generate(shop.to_h))).to_h).to eq(shop.to_h)
  end

  it "names the field that cannot be used" do
    shop, errors =
      described_class.typed(
        { "rate" => "free", "currency" => "", "edits" => { "new_ring" => { "price" => "-1", "hours" => "x" } } },
        catalogue
      )
    expect([shop, errors.keys]).to eq([nil, %w[rate currency new_ring.price new_ring.hours]])
  end
end
