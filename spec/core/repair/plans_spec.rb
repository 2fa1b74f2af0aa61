# frozen_string_literal: true

require "spec_helper"
require "yaml"

# The eleven whole plans of the trade's specification (trade.md section 4) as case files: vehicle and verdict in, the
# whole order out. `must` was written from the specification, `order` is every step.
RSpec.describe "Whole plans" do
  Dir[File.expand_path("../../cases/plans/*.yml", __dir__)].each do |file|
    data = YAML.safe_load_file(file, aliases: true)

    it "come out in the order of the trade: #{data["title"]}" do
      plan = plan_of(data)
      expect(plan.touches).to eq(data["touches"])
      expect(plan.steps.map(&:id)).to eq(data["order"])
      expect(plan.drive.map(&:id)).to eq(data["drive"])
      expect(missing(data["must"], plan)).to be_nil
    end
  end

  it "are eleven" do
    expect(Dir[File.expand_path("../../cases/plans/*.yml", __dir__)].size).to eq(11)
  end

  # Several faults: one lift, one safe-down, one bleeding, one last scan.
  it "are one plan for several faults" do
    sheet = { "power" => "hybrid", "booster" => "electric_pump", "park_brake" => "caliper_motor" }
    works = [
      %w[accumulator/booster new_booster],
      %w[rear_left/sensor new_sensor],
      %w[park_brake_right/caliper new_caliper]
    ]
    plan =
      plan_of("vehicle" => sheet, "works" => works.map { |place, option| { "place" => place, "option" => option } })
    does = plan.steps.flat_map(&:does).tally
    once = %w[
      zero:high_voltage
      zero:accumulator
      prove:no_voltage
      bleeds:brakes
      restore:battery
      learn:park_brake
      drive:proof
    ]
    expect(does.slice(*once)).to eq(once.to_h { |word| [word, 1] })
    expect(plan.steps.count { |step| step.does.any? { |word| word.start_with?("lifts:") } }).to eq(1)
    expect(plan.steps.map(&:id)).to include("renew_booster-accumulator-booster", "renew_sensor-rear_left-sensor")
  end

  # Vehicle and fault with the same meaning give the same plan whatever else the sheet holds.
  it "do not change with what is not touched" do
    plain = plan_of("vehicle" => {}, "works" => [{ "place" => "front_left/sensor", "option" => "new_sensor" }])
    more = { "towing" => "trailer_brake_module", "single_wire" => "yes", "pad_wear_front" => "two" }
    other = plan_of("vehicle" => more, "works" => [{ "place" => "front_left/sensor", "option" => "new_sensor" }])
    expect(other.steps.map(&:id)).to eq(plain.steps.map(&:id))
  end

  def plan_of(data)
    sheet = Gadwall::Vehicle::Sheet.new({ "name" => "Plan case" }.merge(data["vehicle"]))
    system = Gadwall::Vehicle::System.build(sheet, models: CoreHelp::MODELS)
    works = data["works"].map { |row| Gadwall::Decision::PlaceOptions.new(system, row["place"]).work(row["option"]) }
    Gadwall::Repair::Composer.plan(system, works)
  end

  # The first word that does not follow the one before it, or nil.
  def missing(words, plan)
    done = plan.steps.flat_map(&:does)
    words.find do |word|
      at = done.index(word)
      done = done.drop(at + 1) if at
      at.nil?
    end
  end
end
