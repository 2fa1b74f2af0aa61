# frozen_string_literal: true

require "spec_helper"
require "yaml"

# The quick sums against worked examples and published tables (spec/cases/sums.yml names the source of each), and laws
# over many seeded inputs.
RSpec.describe Gadwall::Calculators::Book do
  cases = YAML.safe_load_file(File.expand_path("../../cases/sums.yml", __dir__))

  # What is not named in a law stands at the sum's example.
  def value(id, **given)
    described_class.compute(id, examples(id).merge(given.transform_keys(&:to_s))).result.value
  end

  def examples(id)
    described_class.records.fetch(id)["inputs"].to_h { |input| [input["id"], input["example"]] }.compact
  end

  cases.each_with_index do |row, i|
    it "#{row["sum"]}, example #{i + 1}: #{row["value"]} (#{row["source"]})" do
      found = value(row["sum"], **row["given"].transform_keys(&:to_sym))
      expected = row["value"]
      expect(found).to(expected.is_a?(String) ? eq(expected) : be_within(row["within"] || 0).of(expected))
    end
  end

  it "has two examples at least for every sum" do
    counted = cases.map { |row| row["sum"] }.tally
    expect(described_class.records.keys.reject { |id| counted.fetch(id, 0) >= 2 }).to be_empty
  end

  it "asks for every input that is left empty, by name and unit, and counts with no example" do
    described_class.records.each do |id, record|
      examples(id).each_key do |input|
        name = record["inputs"].find { |each| each["id"] == input }["name"]
        given = examples(id).merge(input => " ")
        expect { described_class.compute(id, given) }.to raise_error(
          Gadwall::Calculators::MissingInput,
          /#{Regexp.escape(name)}/
        )
      end
      next if examples(id).empty?

      expect { described_class.compute(id) }.to raise_error(Gadwall::Calculators::MissingInput)
    end
  end

  it "says what it assumed" do
    done = described_class.compute("voltage_drop", "length" => "7", "section" => "1.5", "current" => "15")
    expect([done.assumed, done.inputs["temperature"]]).to eq([["temperature"], 20.0])
  end

  it "computes its own examples in sensible digits, and names formula and source" do
    rows = described_class.records.keys.map { |id| described_class.compute(id, examples(id)) }
    numbers = rows.map { |done| done.result.value }.grep(Float)
    expect(numbers.map { |number| number.to_s.delete("-.").sub(/\A0+/, "").sub(/0+\z/, "").length }.max).to be <= 5
    expect(rows.map { |done| done.record.values_at("formula", "source").map(&:to_s) }.flatten).to all(match(/\S/))
  end

  laws = 60
  it "goes there and back: frequency and speed, bytes and words, units, drop and size" do
    random = Random.new(7)
    laws.times do
      speed = random.rand(5.0..200.0).round(2)
      teeth = random.rand(20..120)
      hertz = value("ring_frequency", teeth: teeth, speed: speed)
      expect(value("ring_speed", teeth: teeth, frequency: hertz)).to be_within(speed * 1e-3).of(speed)

      bytes = Array.new(3) { format("%02X", random.rand(256)) }.join(" ")
      expect(value("code_bytes", code: value("bytes_code", bytes: bytes))).to eq(bytes)

      [%w[bar psi], ["N m", "lbf ft"], %w[km/h mph], %w[mm in], %w[degC degF]].each do |from, to|
        number = random.rand(1.0..500.0).round(1)
        there = value("convert", value: number, from: from, to: to)
        expect(value("convert", value: there, from: to, to: from)).to be_within(number * 1e-3).of(number)
      end

      length = random.rand(0.5..12.0)
      current = random.rand(0.5..20.0)
      size = value("wire_size", length: length, current: current, drop: 2.0)
      expect(value("voltage_drop", length: length, current: current, section: size)).to be <= 2.0
    end
  end

  it "keeps to its limits: a parallel is less than its least, a series more than its most, a chance stays one" do
    random = Random.new(8)
    laws.times do
      ohms = Array.new(random.rand(2..6)) { random.rand(1.0..1e5).round(2) }
      expect(value("parallel", ohms: ohms.join(" "))).to be <= ohms.min
      expect(value("series", ohms: ohms.join(" "))).to be >= ohms.max * 0.999
      after = value("bayes", prior: random.rand(0.5..99.0), ratio: random.rand(0.01..1000.0))
      expect(after).to be_between(0, 100)
      expect(value("key_on_time", state: 30, least: 40)).to eq(0)
    end
  end

  it "grows where it should: drop with length and heat, way with speed, force with slope, trips with trust" do
    pairs = [
      ["voltage_drop", { length: 2 }, { length: 4 }],
      ["voltage_drop", { temperature: 20 }, { temperature: 100 }],
      ["stopping_distance", { speed: 50 }, { speed: 100 }],
      ["slope_hold", { grade: 8 }, { grade: 20 }],
      ["clean_trips", { trust: 90 }, { trust: 99 }],
      ["battery_state", { volt: 12.1 }, { volt: 12.5 }],
      ["pump_duty", { run: 5 }, { run: 50 }]
    ]
    expect(pairs.reject { |id, less, more| value(id, **less) < value(id, **more) }).to be_empty
  end

  wrong = {
    "voltage_drop" => [%w[length x], %w[length -1], %w[section 99], %w[current 1e999]],
    "ring_frequency" => [%w[tyre round], %w[teeth 0]],
    "parallel" => [["ohms", "one two"], ["ohms", "-5 3"]],
    "bytes_code" => [%w[bytes 4], %w[bytes zz], ["bytes", "01 02 03 04 05"]],
    "vin_check" => [%w[vin SHORT]],
    "bolt_clamp" => [%w[state wet]],
    "convert" => [%w[to psi], %w[from ell]],
    "pad_life" => [%w[then 2]],
    "flash_code" => [%w[pauses tap]],
    "code_bytes" => [%w[code Q9999]],
    "mean_deceleration" => [%w[at_10 5]],
    "precharge" => [%w[low 300]]
  }
  wrong.each do |id, fields|
    fields.each do |field, text|
      it "names the field #{field} of #{id} for '#{text}'" do
        expect { described_class.compute(id, examples(id).merge(field => text)) }.to raise_error(
          Gadwall::InputError
        ) do |error|
          expect([error.field, error.message.length < 400]).to eq([field, true])
        end
      end
    end
  end

  it "is found by what a technician types" do
    found = {
      "tone ring" => "ring_frequency",
      "awg" => "convert",
      "vin" => "vin_check",
      "drop" => "voltage_drop",
      "terminator" => "bus_resistance",
      "slope" => "slope_hold",
      "extension" => "wrench_extension",
      "nitrogen" => "accumulator_volume",
      "precharge" => "precharge"
    }
    missed = found.reject { |words, id| described_class.search(words).first(4).map { |row| row["id"] }.include?(id) }
    expect([missed, described_class.search("zzz")]).to eq([{}, []])
  end
end
