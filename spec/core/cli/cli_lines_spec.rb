# frozen_string_literal: true

require "json"
require "stringio"

# Many documents in one process (docs/formats/case.md): what each line answers is what the single command
# prints, and no line takes another with it.
RSpec.describe Gadwall::CLI::Runner do
  kase = {
    "vehicle" => {
      "name" => "Kestrel",
      "sensors" => "passive"
    },
    "evidence" => [
      {
        "kind" => "scan",
        "version" => 1,
        "codes" => [{ "module" => "abs", "code" => "C0035", "failure_type" => "13", "status" => "current" }]
      }
    ]
  }
  told = ->(arguments, input = "") do
    out = StringIO.new
    err = StringIO.new
    status = described_class.new(out: out, err: err, input: StringIO.new(input)).run(arguments)
    [status, out.string, err.string]
  end
  single = ->(command, *more) { JSON.parse(told[[command, "-", *more], JSON.generate(kase)][1]) }
  lines = ->(command, *documents) do
    status, out, = told[[command, "--lines"], documents.map { |each| "#{each}\n" }.join]
    [status, out.lines.map { |line| JSON.parse(line) }]
  end
  text = JSON.generate(kase)

  it "answers each line as the single command does, and goes on after a wrong one" do
    status, answers = lines["assess", text, "{", '{"vehicle": 3}', "", text]
    expect(status).to eq(0)
    expect(answers.map { |each| each.keys.first }).to eq(%w[ok error error ok])
    expect(answers.values_at(0, 3).map { |each| each["ok"] }.uniq).to eq([single["assess"]])
    expect(answers[2]["error"]).to include("vehicle")
  end

  it "lists the tests of each line's vehicle" do
    expect(lines["tests", text].last.first["ok"]).to eq(single["tests"])
  end

  it "plans for the places of each line, each with its option" do
    place = "front_left/sensor"
    request = ->(more) { JSON.generate({ "case" => kase, "place" => [place] }.merge(more)) }
    _, answers = lines["plan", request[{}], request[{ "option" => "hub_with_sensor" }], request[{ "option" => "no" }]]
    expect(answers[0]["ok"]).to eq(single["plan", "--place", place])
    expect(answers[1]["ok"]).to eq(single["plan", "--place", place, "--option", "hub_with_sensor"])
    expect(answers[2]["error"]).to match(/option/i)
  end

  it "says the ways to mend the place of each line" do
    place = "front_left/sensor"
    request = JSON.generate("case" => kase, "place" => place)
    expect(lines["options", request].last.first["ok"]).to eq(single["options", "--place", place])
    expect(lines["options", JSON.generate("case" => kase)].last.first["error"]).to include("one place")
  end

  it "computes the sum of each line, as typed" do
    inputs = {
      "mass" => "1800",
      "grade" => 20,
      "tyre" => "205/55R16",
      "wheels" => 2,
      "friction" => "0,38",
      "radius" => 120
    }
    _, answers = lines["sum", JSON.generate("sum" => "slope_hold", "inputs" => inputs), '{"sum": "none"}']
    typed = inputs.map { |name, value| "#{name}=#{value}" }
    expect(answers[0]["ok"]).to eq(JSON.parse(told[["sum", "slope_hold", *typed]][1]))
    expect(answers[1]["error"]).to include("none")
  end

  it "bears what is no document: any bytes, any JSON" do
    random = Random.new(7)
    values = [nil, 3, "x", [], {}, { "case" => 3 }, { "sum" => 3 }, { "case" => {}, "place" => [3] }, [[[]]]]
    documents = values.map { |value| JSON.generate(value) } + Array.new(20) { random.bytes(40).delete("\n\r ") }
    %w[assess tests plan options sum].each do |command|
      status, answers = lines[command, *documents]
      expect([status, answers.map(&:keys).uniq]).to eq([0, [["error"]]]), command
      expect(answers.map { |each| each["error"] }.grep(/please report/)).to eq([])
    end
  end

  [
    %w[assess --lines x],
    %w[assess],
    %w[faults --lines],
    %w[assess --help],
    %w[plan - --option x],
    %w[sum --lines x],
    %w[options -],
    %w[nothing]
  ].each do |arguments|
    it "calls wrong usage what no command takes: #{arguments.join(" ")}" do
      status, out, err = told[arguments]
      expect([status, out]).to eq([2, ""])
      expect(err).to start_with("usage:")
    end
  end

  describe "pads" do
    # by hand: 13.7 - 5.0 = 8.7 mm; worn 12.0 - 8.7 = 3.3 mm in 40 000 km, 5.7 mm left above 3.0
    sheet = {
      "corners" => {
        "front_left" => {
          "inner" => 13.7,
          "outer" => "16,4"
        },
        "front_right" => {
          "inner" => 15.9,
          "outer" => 16.2
        }
      },
      "distance" => 40_000
    }

    it "tells linings, how far they go, and what unequal ones mean" do
      status, out, = told[%w[pads -], JSON.generate(sheet)]
      answer = JSON.parse(out)
      left = answer["corners"].find { |each| each["corner"] == "front_left" }
      expect([status, left["inner_mm"], left["outer_mm"]]).to eq([0, 8.7, 11.4])
      expect(left["goes_on_km"]).to(satisfy { |low, high| low < 40_000 * 5.7 / 3.3 && high > 40_000 * 5.7 / 3.3 })
      expect(answer["findings"].join).to match(/inner.*Likely/m)
    end

    [
      [{}, /corners/],
      [[], /object/],
      [{ "corners" => { "front_left" => { "inner" => "x" } } }, /front_left\.inner/],
      [{ "corner" => {} }, /corner/]
    ].each do |data, words|
      it "says what is wrong in #{data}" do
        status, _, err = told[%w[pads -], JSON.generate(data)]
        expect(status).to eq(1)
        expect(err).to match(words)
      end
    end
  end
end
