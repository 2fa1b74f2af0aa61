# frozen_string_literal: true

require "spec_helper"

# What protects people and parts must stand in the plan of every repair: every kind of vehicle, every place that can
# fail, every option, and pairs of faults. The laws here are written by hand from the trade's rules (trade.md sections 2
# and 4), not read from data/repairs.
RSpec.describe Gadwall::Repair::Composer do
  catalogue = Gadwall::Knowledge.catalogue

  # A composed plan with what it is for. line: names for a failure message.
  Composed =
    Struct.new(:sheet, :works, :plan, keyword_init: true) do
      def line
        shown =
          sheet.answers.slice("power", "booster", "park_brake", "unit", "towing", "system_voltage").values.join(", ")
        "#{works.map { |work| "#{work.location} by #{work.option}" }.join(" and ")} (#{shown})"
      end

      def touches?(pattern)
        plan.touches.any? { |word| File.fnmatch(pattern, word) }
      end

      # Numbers of the steps that do it.
      def at(pattern)
        plan.steps.each_index.select { |i| plan.steps[i].does.any? { |word| File.fnmatch(pattern, word) } }
      end

      # Is each of the second preceded by one of the first?
      def before?(first, *others)
        at = at(first).min
        others.all? { |other| at(other).all? { |i| at && at < i } }
      end

      # Is each of the first followed by one of the others?
      def after?(first, *others)
        last = at(first).max
        last.nil? || others.all? { |other| (after = at(other).max) && after >= last }
      end

      def does?(pattern)
        at(pattern).any?
      end

      # Objects of a verb, in touches or steps.
      def objects(verb)
        (plan.touches + plan.steps.flat_map(&:does)).grep(/\A#{verb}:/).map { |word| word.split(":").last }.uniq
      end

      def accumulator?
        sheet.booster == "electric_pump"
      end
    end

  WHOLE = { "name" => "law", "stability" => "yes", "single_wire" => "yes", "pad_wear_front" => "two" }.freeze
  SHEETS =
    %w[combustion hybrid electric]
      .product(%w[vacuum electric_pump air], %w[lever cable_puller caliper_motor])
      .each_with_index
      .map do |(power, booster, park_brake), n|
        WHOLE.merge(
          "sensors" => %w[passive active direction][n % 3],
          "power" => power,
          "booster" => booster,
          "park_brake" => park_brake,
          "park_brake_driver" => %w[own abs][n % 2],
          "unit" => %w[one_piece separate][n % 2],
          "system_voltage" => %w[12 24][(n / 3) % 2],
          "layout" => %w[four_sensors three_sensors][n % 2],
          "pad_wear_rear" => %w[one two unit][n % 3],
          "brake_switch" => %w[one two signal][n % 3],
          "towing" => %w[none trailer_brake_module trailer][n % 3],
          "unit_place" => [nil, "frame", "engine_bay"][n % 3]
        ).compact
      end
      .freeze

  def self.singles(system, catalogue)
    system.circuits.flat_map do |circuit|
      circuit
        .model
        .faults
        .uniq { |fault| [fault.place, fault.repair] }
        .flat_map do |fault|
          options(catalogue, circuit, fault).map do |option|
            Gadwall::Repair::Work.at(circuit, fault.place, repair: fault.repair, option: option["id"], system: system)
          end
        end
    end
  end

  def self.options(catalogue, circuit, fault)
    catalogue.repairs.values.select do |option|
      option["repair"] == fault.repair && (option["families"].nil? || option["families"].include?(circuit.family))
    end
  end

  def self.composed(system, works)
    Composed.new(sheet: system.sheet, works: works, plan: described_class.plan(system, works))
  end

  PAIRS = 20 # of each vehicle
  ALL =
    SHEETS
      .each_with_index
      .flat_map do |answers, n|
        system = Gadwall::Vehicle::System.build(Gadwall::Vehicle::Sheet.new(answers), models: CoreHelp::MODELS)
        works = singles(system, catalogue)
        random = Random.new(n)
        picked = works.select.with_index { |_, i| (i + n) % 3 == 0 } # each place comes on other vehicles too
        picked.map { |work| composed(system, [work]) } +
          Array.new(PAIRS) { composed(system, works.sample(2, random: random)) }
      end
      .freeze

  def self.law(text, only = ->(_) { true }, &holds)
    it text do
      concerned = ALL.select { |each| instance_exec(each, &only) }
      expect(concerned.size).to be > 4
      wrong = concerned.reject { |each| instance_exec(each, &holds) }
      expect(wrong.map(&:line).first(3)).to eq([]),
      "#{wrong.size} plans, such as #{wrong.map(&:line).first(3).join("; ")}"
    end
  end

  it "is looked at in at least 2000 combinations of vehicle, place, option and pairs of faults" do
    expect(ALL.size).to be >= 2000
    expect(ALL.map { |each| each.works.first.option }.uniq.size).to be >= catalogue.repairs.size - 3
    puts "  #{ALL.size} plans"
  end

  law "opens nothing that holds pressure before the accumulator is proven empty, and its pump is out",
      ->(each) { each.accumulator? && (each.does?("opens:brake_line") || each.does?("opens:reservoir")) } do |each|
    each.before?("zero:accumulator", "opens:*") && each.before?("prove:pressure_zero", "opens:*") &&
      each.before?("unplugs:relay", "opens:*") && each.after?("opens:*", "restore:accumulator") &&
      (!each.does?("opens:brake_line") || each.before?("closes:brake_line", "restore:accumulator"))
  end

  law "has no hand near high voltage before its absence is proven",
      ->(each) { each.touches?("near:high_voltage") } do |each|
    each.before?("zero:battery", "zero:high_voltage") && each.before?("zero:high_voltage", "prove:no_voltage") &&
      each.before?("prove:no_voltage", "opens:*", "unplugs:*_module", "renews:*", "mends:*", "lifts:*") &&
      each.before?("prove:insulation", "restore:high_voltage") &&
      each.before?("restore:high_voltage", "restore:battery")
  end

  law "goes past orange cable at accumulator, pump, unit and pressure sensor of hybrids and electrics",
      ->(each) { each.sheet.power != "combustion" } do |each|
    %w[new_accumulator new_booster new_pump rebuilt_pump new_hydraulic_unit].none? do |option|
      each.works.any? { |work| work.option == option }
    end || each.touches?("near:high_voltage")
  end

  law "lets pressure out while the 12 V supply is there",
      ->(each) { each.does?("zero:accumulator") && each.does?("zero:battery") } do |each|
    each.before?("prove:pressure_zero", "zero:battery")
  end

  law "puts nobody under a vehicle that does not stand, and lets it down again",
      ->(each) { each.touches?("lifts:*") } do |each|
    each.before?("chock:wheels", "lifts:*") && each.before?("lifts:*", "wheel_off:*", "lowers:*") &&
      (each.objects("lifts") - each.objects("lowers")).empty? && each.at("lifts:*").size == 1 &&
      each.after?("wheel_off:*", "lowers:*")
  end

  law "takes no wheel off without wheel on and torque", ->(each) { each.touches?("wheel_off:*") } do |each|
    (each.objects("wheel_off") - each.objects("wheel_on")).empty? && each.after?("wheel_off:*", "wheel_on:*") &&
      each.after?("wheel_on:*", "torque:wheel_bolts") && each.before?("lifts:*", "wheel_off:*") &&
      each.after?("lowers:*", "torque:wheel_bolts")
  end

  # A sensor, its lead or a tyre leaves calipers where they are: there the motor is kept still, and learns nothing new.
  law "has park brake motors still, or in service position, before the wheel of their axle comes off",
      ->(each) { each.sheet.park_brake == "caliper_motor" && each.touches?("wheel_off:rear_*") } do |each|
    each.before?("zero:park_brake_motor", "wheel_off:*") && each.does?("restore:park_brake_motor")
  end

  law "runs park brake motors in where their caliper was touched",
      ->(each) do
        each.sheet.park_brake == "caliper_motor" && each.touches?("wheel_off:rear_*") &&
          each.touches?("near:caliper") && each.works.size == 1
      end do |each|
    each.before?("zero:park_brake_motor", "lifts:*") && each.after?("wheel_on:*", "learn:park_brake") &&
      each.after?("learn:park_brake", "test:park_brake_hold")
  end

  law "bleeds every opened line, and proves pedal and tightness before the vehicle moves",
      ->(each) { each.does?("opens:brake_line") } do |each|
    each.after?("opens:brake_line", "closes:brake_line", "fills:brake_fluid", "bleeds:brakes") &&
      each.before?("closes:brake_line", "bleeds:brakes") &&
      each.after?("bleeds:brakes", "prove:pedal", "prove:tight") && each.before?("prove:pedal", "drive:*")
  end

  law "gives 12 V back wherever it took it, and supports it before anything is written or learned" do |each|
    each.after?("zero:battery", "restore:battery") && each.before?("support:battery", "write:*", "learn:*") &&
      (!each.does?("zero:battery") || each.at("support:battery").max.to_i > each.at("restore:battery").max.to_i)
  end

  law "unplugs no module with the battery on", ->(each) { each.touches?("unplugs:*_module") } do |each|
    each.before?("zero:battery", "unplugs:*_module")
  end

  # The sensor of an accumulator learns its zero while the accumulator is empty: the rest comes after the charging.
  law "learns after bleeding, after writing and after codes are cleared",
      ->(each) { each.at("learn:*") != each.at("learn:accumulator_pressure") } do |each|
    first = (each.at("learn:*") - each.at("learn:accumulator_pressure")).min
    each.at("bleeds:brakes").all? { |i| i < first } && each.at("write:*").all? { |i| i < first } &&
      each.at("clear:codes").any? { |i| i < first }
  end

  law "zeroes an accumulator's pressure while it is empty, and what it is written to is written",
      ->(each) { each.does?("learn:accumulator_pressure") } do |each|
    first = each.at("learn:accumulator_pressure").min
    each.before?("prove:pressure_zero", "learn:accumulator_pressure") &&
      each.before?("learn:accumulator_pressure", "restore:accumulator") &&
      each.at("write:coding").all? { |i| i < first }
  end

  law "renews nothing without its match", ->(each) { each.touches?("renews:*") } do |each|
    each.before?("match:part", "renews:*", "lifts:*")
  end

  law "writes, tests and learns for what was renewed",
      ->(each) { each.touches?("renews:*_module") || each.touches?("renews:trailer_modulator") } do |each|
    each.does?("save:parameters") && each.does?("write:*") &&
      each.before?("save:parameters", "unplugs:*_module", "write:*") && each.does?("test:supply")
  end

  law "brings back what it opened, unplugged and made safe" do |each|
    (each.objects("opens") - each.objects("closes")).empty? &&
      (each.objects("unplugs") - each.objects("plugs")).empty? &&
      (each.objects("zero") - each.objects("restore")).empty?
  end

  law "does what it says the hands touch" do |each|
    shown = each.plan.touches.grep(/\A(?:lifts|wheel_off|unplugs|opens|renews|mends|off_bus):/)
    shown.all? { |word| each.does?(word) }
  end

  law "has no plan without a last scan and a proof, and clears codes before them" do |each|
    drive = each.at("drive:proof").min
    drive && each.at("scan:all").max > drive && each.at("scan:all").any? { |i| i < drive } &&
      (
        each.works.all? { |work| %w[watch no_fault_found].include?(work.option) } ||
          each.at("clear:codes").any? { |i| i < drive }
      ) && each.plan.drive.any? && each.plan.drive.all? { |leg| leg.proves.any? }
  end

  law "has limits and a source for every figure, and a reason for every step" do |each|
    each.plan.steps.all? do |step|
      step.source && step.why && step.asks.all? { |ask| ask["low"] < ask["high"] && ask["unit"] && ask["source"] }
    end
  end

  # Without air the spring brakes hold and the suspension sinks: the stands are under before it goes.
  law "empties the air before a hose is opened, on stands, and fills it again",
      ->(each) { each.touches?("opens:air_line") } do |each|
    each.before?("zero:air", "opens:air_line") && each.before?("lifts:*", "zero:air") &&
      each.after?("opens:air_line", "closes:air_line", "restore:air")
  end

  law "makes the airbag safe after the battery, and before the hand is there",
      ->(each) { each.touches?("near:airbag") } do |each|
    each.before?("zero:battery", "zero:airbag") && each.before?("zero:airbag", "renews:*", "mends:*") &&
      each.before?("restore:airbag", "restore:battery")
  end

  law "keeps each step once, in an order that follows itself" do |each|
    ids = each.plan.steps.map(&:id)
    ids.uniq == ids && each.plan.steps.each_with_index.all? { |step, i| step.after.all? { |id| ids.index(id) < i } }
  end

  # A bus that runs through the plug of the module (trade.md 4.1): a bridge always comes out again.
  it "takes a bridge out before the module is connected, and never leaves it out of the plan" do
    joints = [
      { "id" => "gateway_plug", "minutes" => 4, "module" => "gateway", "pins" => { "high" => "6", "low" => "14" } },
      {
        "id" => "abs_plug",
        "minutes" => 6,
        "module" => "abs",
        "passes" => true,
        "pins" => {
          "high" => "1",
          "low" => "2"
        }
      },
      { "id" => "epb_plug", "minutes" => 6, "module" => "epb", "pins" => { "high" => "3", "low" => "4" } }
    ]
    sections = Array.new(2) { { "length_m" => 1.0, "cross_section_mm2" => 0.5 } }
    names = catalogue.circuits.fetch("can_bus")["wires"].map { |wire| wire["id"] }
    joints.each { |joint| joint["pins"] = names.zip(joint["pins"].values).to_h }
    sheet =
      Gadwall::Vehicle::Sheet.new(
        "name" => "through",
        "circuits" => {
          "chassis_bus" => {
            "joints" => joints,
            "sections" => sections
          }
        }
      )
    system = Gadwall::Vehicle::System.build(sheet, models: CoreHelp::MODELS)
    circuit = system.circuit_named("abs_module")
    work = Gadwall::Repair::Work.at(circuit, "module", repair: "renew_module", option: "new_module", system: system)
    each = self.class.composed(system, [work])
    expect(each.plan.touches).to include("off_bus:pass_through")
    expect(each.before?("zero:bus_bridge", "restore:bus_bridge")).to be(true)
    expect(each.before?("restore:bus_bridge", "plugs:abs_module")).to be(true)
    expect(each.plan.steps.find { |step| step.does.include?("restore:bus_bridge") }.protects).to be(true)
  end
end
