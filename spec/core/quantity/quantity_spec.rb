# frozen_string_literal: true

RSpec.describe Gadwall::Quantity::ReadingText do
  {
    %w[0.6 ohm] => 0.6,
    %w[0,6 ohm] => 0.6,
    %w[3.3M ohm] => 3.3e6,
    %w[110k ohm] => 110e3,
    ["110 kohm", "ohm"] => 110e3,
    %w[1k1 ohm] => 1100.0,
    %w[4R7 ohm] => 4.7,
    %w[47R ohm] => 47.0,
    ["0.5 Ω", "ohm"] => 0.5,
    %w[5mohm ohm] => 0.005,
    %w[.5 ohm] => 0.5,
    %w[2e3 ohm] => 2000.0,
    %w[12.4V V] => 12.4,
    %w[12.4 V] => 12.4,
    %w[850m V] => 0.85,
    ["850 mV", "V"] => 0.85,
    %w[-0.3 V] => -0.3,
    %w[+5 V] => 5.0,
    %w[7m A] => 0.007,
    ["14 mA", "A"] => 0.014,
    %w[0.014 A] => 0.014
  }.each do |(text, unit), value|
    it "reads #{text.inspect} as #{value} #{unit}" do
      expect(described_class.parse(text, unit: unit).value).to be_within(value.abs * 1e-12).of(value)
    end
  end

  ["OL", "ol", "O.L.", "over limit", "open", "inf", "∞", "----"].each do |text|
    it "reads #{text} as over limit" do
      expect(described_class.parse(text, unit: "ohm")).to be_over_limit
    end
  end

  [
    ["", "empty"],
    %w[abc abc],
    %w[12V 12V],
    %w[1.2.3 1.2.3],
    %w[1,234.5 1,234.5],
    %w[-4 -4],
    ["3.3m", "M for mega"],
    %w[1e40 between],
    ["9" * 50, "number"],
    %w[NaN NaN],
    ["12 34", "'12 34'"]
  ].each do |text, hint|
    it "refuses #{text.inspect[0, 20]} for ohms, naming the field and a way out" do
      expect { described_class.parse(text, unit: "ohm", field: "resistance") }.to raise_error(
        Gadwall::InputError,
        /resistance: .*#{Regexp.escape(hint)}/m
      )
    end
  end

  it "does not take over limit for a voltage" do
    expect_refusal(/only a resistance/) { described_class.parse("OL", unit: "V") }
  end

  it "says back what it understood, with three digits and a prefix" do
    {
      1100.0 => "1.1 kohm",
      0.6 => "0.6 ohm",
      3.3e6 => "3.3 Mohm",
      999_600.0 => "1 Mohm",
      0.0 => "0 ohm"
    }.each { |value, text| expect(Gadwall::Quantity::Reading.new(value: value, unit: "ohm").to_s).to eq(text) }
    expect(Gadwall::Quantity::Reading.new(value: 0.014, unit: "A").to_s).to eq("14 mA")
  end

  it "goes round: what it says, it reads" do
    random = Random.new(4)
    200.times do
      reading = Gadwall::Quantity::Reading.new(value: 10**random.rand(-1.0..7.5), unit: "ohm")
      expect(described_class.parse(reading.to_s, unit: "ohm").value).to be_within(reading.value * 6e-3).of(
        reading.value
      )
    end
  end

  it "takes 5,000 garbled texts without any other error" do
    random = Random.new(11)
    letters = "0123456789.,-+eEkKMmRΩ VAOL\u0000é∞\n".chars
    5000.times do
      text = Array.new(random.rand(0..8)) { letters.sample(random: random) }.join
      begin
        expect(described_class.parse(text, unit: %w[ohm V A].sample(random: random))).to be_a(
          Gadwall::Quantity::Reading
        )
      rescue Gadwall::InputError => error
        expect(error.message).to include("Enter")
      end
    end
  end
end
