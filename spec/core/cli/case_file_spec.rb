# frozen_string_literal: true

require "json"
require "json_schemer"
require "stringio"

RSpec.describe Gadwall::CLI::Runner do
  def run(*arguments, input: "")
    out = StringIO.new
    err = StringIO.new
    status =
      described_class.new(out: out, err: err, input: StringIO.new(input), models: CoreHelp::MODELS).run(arguments)
    [status, out.string, err.string]
  end

  let(:kase) do
    {
      "gadwall_case" => 1,
      "vehicle" => {
        "name" => "spec",
        "sensors" => "passive"
      },
      "evidence" => [
        {
          "kind" => "scan",
          "modules" => [{ "name" => "ABS" }],
          "codes" => [{ "code" => "C0031", "failure_type" => "13", "status" => "2F" }]
        },
        { "kind" => "reading", "test" => "front_left.resistance.body_connector", "reading" => "OL" },
        { "kind" => "reading", "test" => "front_left.resistance.sensor_plug", "reading" => "1,1k" },
        { "kind" => "reading", "test" => "front_left.bias.sensor_plug", "reading" => 0.2 }
      ]
    }
  end

  it "prints suspects, next tests, verdict and cautions in the agreed fields" do
    status, out, err = run("assess", "-", input: JSON.generate(kase))
    answer = JSON.parse(out)
    expect([status, err]).to eq([0, ""])
    expect(answer["suspects"].first.keys).to include("fault", "text", "probability")
    expect(answer["suspects"].map { |row| row["probability"] }).to eq(
      answer["suspects"].map { |row| row["probability"] }.sort.reverse
    )
    expect(answer["suspects"].map { |row| row["fault"] }).to include("none")
    expect(answer["next_tests"].first.keys).to include("test", "text", "minutes", "bits", "bits_per_minute", "outcomes")
    expect(answer["next_tests"].first["outcomes"].first.keys).to include("result", "points_to", "probability")
    expect(answer["verdict"]).to include("state" => "proven", "missing" => [])
    expect(answer["verdict"]["fault"]).to match(/front_left\.wire_(signal|return)\.body_connector_to_sensor_plug\.open/)
    expect(answer["cautions"]).to all(include("rule", "text"))
  end

  it "reads a withdrawn reading as not there" do
    withdrawn =
      kase.merge("evidence" => kase["evidence"] + [{ "kind" => "withdraw", "entry" => 4, "reason" => "wrong pin" }])
    without = kase.merge("evidence" => kase["evidence"][0..2])
    answers =
      [withdrawn, without].map { |each| JSON.parse(run("assess", "-", input: JSON.generate(each))[1])["suspects"] }
    expect(answers.uniq.size).to eq(1)
  end

  {
    "no JSON" => ["{", /case: .*JSON document/],
    "no vehicle" => ['{"evidence":[]}', /vehicle missing.*vehicle, evidence/],
    "an entry without its kind" => ['{"vehicle":{},"evidence":[{"text":"x"}]}', /evidence 1.*kind/],
    "a reading without its test" => [
      '{"vehicle":{},"evidence":[{"kind":"reading","reading":"1"}]}',
      /evidence 1: 'test missing'/
    ],
    "an unknown test" => [
      '{"vehicle":{},"evidence":[{"kind":"reading","test":"front_left.resistence.sensor_plug","reading":"1"}]}',
      /evidence 1, test: .*such as/
    ],
    "nonsense for a number" => [
      '{"vehicle":{"sensors":"passive"},"evidence":[{"kind":"reading",' \
        '"test":"front_left.resistance.sensor_plug","reading":"lots"}]}',
      /evidence 1, reading: 'lots'.*1\.1k/
    ],
    "an unknown outcome" => [
      '{"vehicle":{},"evidence":[{"kind":"finding","test":"front_left.look_ring","result":"blue"}]}',
      /evidence 1, result: 'blue'.*cracked/
    ],
    "an unknown code" => [
      '{"vehicle":{},"evidence":[{"kind":"scan","codes":[{"code":"Z1"}]}]}',
      /evidence 1, code: 'Z1'/
    ],
    "an unknown symptom" => [
      '{"vehicle":{},"evidence":[{"kind":"symptoms","ids":["sneezes"]}]}',
      /evidence 1, symptom: 'sneezes'/
    ],
    "an unknown sensor" => [
      '{"vehicle":{"sensors":"magic"},"evidence":[]}',
      /vehicle\.sensors\.front_left: 'magic'.*one of passive, active, direction/
    ],
    "too few sections" => [
      '{"vehicle":{"circuits":{"front_left":{"joints":[{"id":"a"},{"id":"b"},{"id":"c"}],"sections":[]}}},' \
        '"evidence":[]}',
      /sections: '0'.*2 sections/
    ],
    "a value below nothing" => [
      '{"vehicle":{"sensors":"passive","circuits":{"front_left":{"values":{"coil_ohm":-5}}}},"evidence":[]}',
      /values\.coil_ohm: '-5'/
    ],
    "a withdrawal of nothing" => [
      '{"vehicle":{},"evidence":[{"kind":"withdraw","entry":9,"reason":"x"}]}',
      /entry: '9'/
    ]
  }.each do |name, (text, message)|
    it "answers #{name} with one sentence and status 1" do
      status, out, err = run("assess", "-", input: text)
      expect([status, out]).to eq([1, ""])
      expect(err.lines.size).to eq(1)
      expect(err).to match(message)
    end
  end

  it "keeps an entry of a kind that it does not know, and tells it" do
    later = kase.merge("evidence" => kase["evidence"] + [{ "kind" => "weighed", "version" => 3, "kg" => 1200 }])
    unread = [{ "entry" => 5, "kind" => "weighed", "version" => 3 }]
    answers = %w[check assess].map { |command| JSON.parse(run(command, "-", input: JSON.generate(later))[1]) }
    expect(answers.map { |answer| answer["unread"] }).to eq([unread, unread])
    known = JSON.parse(run("assess", "-", input: JSON.generate(kase))[1])
    expect(answers[1].except("unread")).to eq(known)
    expect(Gadwall::CaseFile.parse(JSON.generate(later)).log.entries.last.to_h).to include("kg" => 1200)
  end

  it "answers wrong usage with status 2" do
    expect(run("divine", "x").first).to eq(2)
    expect(run("assess").first).to eq(2)
    expect(run("assess", "/nowhere.json")).to match([1, "", /file: .*can be read/])
  end

  it "takes 100 mutilated cases without any other error" do
    random = Random.new(3)
    text = JSON.generate(kase)
    100.times do
      bent = text.dup
      random
        .rand(1..4)
        .times { bent[random.rand(bent.length)] = ['"', "{", "]", "9", "-", "x", ":", "", "\\"].sample(random: random) }
      status, = run("check", "-", input: bent)
      expect(status).to be_between(0, 1)
    end
  end

  it "meets its own schema and comes back without loss" do
    schema = JSONSchemer.schema(JSON.parse(File.read(Gadwall::CaseFile::SCHEMA)))
    text = Gadwall::CaseFile.dump(vehicle: kase["vehicle"], entries: kase["evidence"], extra: { "number" => "J1" })
    expect(schema.valid?(JSON.parse(text))).to be(true)
    again = Gadwall::CaseFile.parse(text)
    expect(again.data.slice("vehicle", "evidence")).to eq(kase.slice("vehicle", "evidence"))
  end

  Dir[File.expand_path("../../../docs/formats/examples/*.json", __dir__)].each do |file|
    it "reads the documented example #{File.basename(file)}" do
      status, out, = run("assess", file)
      expect(status).to eq(0)
      expect(JSON.parse(out)["suspects"].first["fault"]).not_to eq("none")
    end
  end
end
