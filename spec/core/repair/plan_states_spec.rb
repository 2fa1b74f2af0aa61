# frozen_string_literal: true

require "spec_helper"
require_relative "../../support/every_work"

# Whatever a step takes away another gives back, and nothing is done while it hurts somebody: every plan is run on a
# vehicle of which only its state is known (data/repairs/states.yml, conditions.yml; common practice of the trade).
RSpec.describe Gadwall::Repair::DryRun do
  systems = EveryWork::SYSTEMS
  works = EveryWork::WORKS

  # What is wrong with the plan for these works: [] where nothing is.
  def wrong(system, works)
    Gadwall::Repair::Composer.plan(system, works)
    []
  rescue Gadwall::Repair::UnsoundPlanError => error
    error.findings.map { |finding| "#{works.map(&:location)}, #{finding.step}: #{finding.problem}" }
  end

  systems.each do |name, system|
    it "leaves nothing undone at any place of the #{name}, by any option" do
      alike = EveryWork.alike(name)
      expect(alike.flat_map { |work| wrong(system, [work]) }).to eq([])
      expect(alike.size).to be > 30
    end
  end

  it "leaves nothing undone where two faults are mended in one plan" do
    random = Random.new(24)
    found =
      Array.new(500) do |i|
        name = systems.keys[i % systems.size]
        pair = works[name].sample(2, random: random)
        wrong(systems[name], pair)
      end
    expect(found.flatten).to eq([])
  end

  # Each find of the audit, as the words that have to stand in this order.
  {
    "a caliper is hung, refitted, torqued and pumped" => [
      "hatchback",
      "front_left/ring",
      "new_ring",
      %w[
        hangs:front_left
        renews:ring
        refits:front_left
        torque:caliper
        wheel_on:front_left
        prove:pedal
        lowers:front_left
      ]
    ],
    "pads have their bolts' torque" => [
      "hatchback",
      "pad_wear_front/pads",
      "new_pads",
      %w[hangs:front_axle renews:pads refits:front_axle torque:caliper prove:pedal]
    ],
    "spring brakes of a lorry are caged, freed and tried" => [
      "lorry",
      "front_left/ring",
      "new_ring",
      %w[
        lifts:front_left
        cages:spring_brakes
        opens:air_brake
        renews:ring
        sets:hub_bearing
        closes:air_brake
        removes:cages
        sets:slack_adjuster
        wheel_on:front_left
        lowers:front_left
        test:park_brake_hold
      ]
    ],
    "air is let out on stands" => [
      "lorry",
      "trailer_modulator/modulator",
      "new_modulator",
      %w[chock:wheels lifts:vehicle zero:air opens:air_line closes:air_line restore:air lowers:vehicle removes:chocks]
    ],
    "the pedal prop is out before fluid goes in" => [
      "hatchback",
      "return_pump/pump",
      "new_pump",
      %w[props:pedal opens:brake_line closes:brake_line removes:pedal_prop fills:brake_fluid bleeds:brakes]
    ],
    "an accumulator's sensor is zeroed while it is empty" => [
      "hybrid",
      "accumulator_pressure/sensor",
      "new_other_sensor",
      %w[
        zero:accumulator
        disables:accumulator_pump
        renews:sensor
        closes:brake_line
        restore:battery
        learn:accumulator_pressure
        enables:accumulator_pump
        restore:accumulator
      ]
    ],
    "no hand is in a caliper that an accumulator can close" => [
      "hybrid",
      "pad_wear_front/pads",
      "new_pads",
      %w[
        zero:accumulator
        prove:pressure_zero
        disables:accumulator_pump
        hangs:front_axle
        renews:pads
        refits:front_axle
        enables:accumulator_pump
        restore:accumulator
      ]
    ],
    "a wheel's signal is read with the support unit on, once what was welded is cold" => [
      "estate",
      "rear_left/ring",
      "rework_ring",
      %w[
        support:battery
        zero:battery
        guards:fire
        welds:ring
        cools:fire
        restore:battery
        support:battery
        test:wheel_speed
        wheel_on:rear_left
      ]
    ],
    "a cable-pull unit is still while pads are out" => [
      "cables and bearings",
      "pad_wear_rear/pads",
      "new_pads",
      %w[zero:park_brake_motor hangs:rear_axle renews:pads refits:rear_axle learn:park_brake test:park_brake_hold]
    ]
  }.each do |title, (kind, place, option, order)|
    it title do
      work = works[kind].find { |each| each.location == place && each.option == option }
      done = Gadwall::Repair::Composer.plan(systems[kind], [work]).steps.flat_map(&:does)
      missing =
        order.find do |word|
          at = done.index(word)
          done = done.drop(at + 1) if at
          at.nil?
        end
      expect(missing).to be_nil
    end
  end

  it "gives an air-braked vehicle no fluid, no bleeding, no pedal prop and no hub nut of a drive shaft" do
    words = %w[fills:brake_fluid bleeds:brakes opens:brake_line props:pedal torque:hub_nut prove:pedal]
    %w[lorry]
      .product(works["lorry"].uniq { |work| [work.place, work.option] })
      .each do |kind, work|
        plan = Gadwall::Repair::Composer.plan(systems[kind], [work])
        expect([work.location, work.option, plan.steps.flat_map(&:does) & words]).to eq(
          [work.location, work.option, []]
        )
      end
  end

  it "welds with battery and high voltage off, the sensor out, an earth clamp at the part and a fire watch" do
    { "hatchback" => [], "electric van" => %w[zero:high_voltage prove:no_voltage] }.each do |kind, more|
      work = works[kind].find { |each| each.location == "front_left/ring" && each.option == "rework_ring" }
      plan = Gadwall::Repair::Composer.plan(systems[kind], [work])
      before = plan.steps.take_while { |step| !step.does.include?("welds:ring") }.flat_map(&:does)
      expect(before).to include("zero:battery", "unplugs:sensor", "guards:fire", *more)
      ready = plan.steps.find { |step| step.does.include?("guards:fire") }
      expect(ready.ticks.map { |tick| tick["id"] }).to contain_exactly("sensor_out", "earth_clamp", "extinguisher")
      expect(plan.steps.find { |step| step.does.include?("cools:fire") }.wait_minutes).to be >= 30
    end
  end

  it "refuses a plan from which a step that gives something back was taken" do
    work = works["hatchback"].find { |each| each.location == "front_left/ring" && each.option == "new_ring" }
    plan = Gadwall::Repair::Composer.plan(systems["hatchback"], [work])
    rules = Gadwall::Repair::StateRules.of(catalogue, systems["hatchback"].sheet)
    %w[caliper_refitted wheel_on lower wheel_torque pedal_proven chocks_out hub_nut].each do |id|
      steps = plan.steps.reject { |step| step.id == id }
      expect([id, described_class.new(rules, plan.touches, steps).findings.size]).to match([id, a_value > 0])
    end
  end
end
