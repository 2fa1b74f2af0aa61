# frozen_string_literal: true

require "spec_helper"

# Circuits that are wired alike share one model, and what was computed of it is kept: whose vehicle was asked for before
# must not change the answer of the next.
RSpec.describe "Models that vehicles share" do
  told = {
    "nothing read yet" => [],
    "read, and nothing to show for it" => [{ "kind" => "scan", "codes" => [] }],
    "a complaint alone" => [{ "kind" => "scan", "codes" => [] }, { "kind" => "symptoms", "ids" => ["above_speed"] }],
    "a code that is there" => [{ "kind" => "scan", "codes" => [{ "code" => "C0031-12", "status" => "current" }] }],
    "a code of old" => [{ "kind" => "scan", "codes" => [{ "code" => "C0031-12", "status" => "history" }] }],
    "a lamp" => [{ "kind" => "lamps", "lit" => [{ "lamp" => "abs" }] }],
    "a lamp that is out by now" => [
      { "kind" => "lamps", "lit" => [{ "lamp" => "abs" }] },
      { "kind" => "presence", "fault" => "absent" }
    ],
    "a reading beside a code" => [
      { "kind" => "scan", "codes" => [{ "code" => "C0031-12", "status" => "current" }] },
      { "kind" => "reading", "test" => "front_left.stray_volts.module_plug", "reading" => "12.4" }
    ]
  }

  def places(entries, models)
    sheet = Gadwall::Vehicle::Sheet.new("name" => "spec", "sensors" => "passive")
    assess(Gadwall::Vehicle::System.build(sheet, models: models), *entries).posterior.places
  end

  it "answer each vehicle to the last digit as if it were the only one" do
    alone = told.transform_values { |entries| places(entries, Gadwall::Vehicle::ModelCache.new) }
    [told.to_a, told.to_a.reverse].each do |order|
      models = Gadwall::Vehicle::ModelCache.new
      together = order.to_h { |name, entries| [name, places(entries, models)] }
      expect(told.keys.reject { |name| together[name] == alone[name] }).to eq([])
    end
    expect(alone.values.uniq.size).to be >= told.size - 1
  end
end
