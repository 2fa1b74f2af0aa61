# frozen_string_literal: true

require "spec_helper"
require "yaml"

# What is typed for a test that is seen: ids, words of today, and every word that an earlier version showed.
RSpec.describe Gadwall::Observations::Result do
  archive = YAML.safe_load_file(File.join(Gadwall::Knowledge::FOLDER, "archive/outcome_words_1.yml"))
  sheets = [
    { "sensors" => "passive", "booster" => "electric_pump", "park_brake" => "caliper_motor", "stability" => "yes" },
    { "sensors" => "active", "park_brake" => "cable_puller", "brake_switch" => "two", "fluid_level" => "three" },
    { "sensors" => "direction", "single_wire" => "yes", "towing" => "trailer", "pad_wear_front" => "one" }
  ]

  let(:tests) do
    sheets.flat_map do |sheet|
      sheet = Gadwall::Vehicle::Sheet.new(sheet.merge("name" => "x"))
      system = Gadwall::Vehicle::System.build(sheet, models: CoreHelp::MODELS)
      system.test_ids.map { |id| system.test(id).last }
    end
  end

  def named(id)
    tests.select { |test| test.record["id"] == id && !test.numeric? }
  end

  archive.each do |row|
    it "reads the earlier words of #{row["id"]}" do
      read =
        row["words"].map do |words, id|
          named(row["id"])
            .select { |test| test.outcomes.key?(id) }
            .map { |test| described_class.of(test, words) }
            .uniq - [id]
        end
      expect(read.flatten).to eq([])
      expect(named(row["id"])).not_to be_empty
    end
  end

  it "reads an id, today's words in any case, and a plain word for normal" do
    look = named("look_joint").first
    expect(
      ["bad", "Dry, clean, terminals tight", "OK", "normal"].map { |typed| described_class.of(look, typed) }
    ).to eq(%w[bad good good good])
    expect { described_class.of(look, "so so") }.to raise_error(Gadwall::InputError, /good \(dry, clean/)
  end
end
