# frozen_string_literal: true

require "spec_helper"

# What protects people and parts must stand in the plan of every repair: every kind of vehicle, every place that can
# fail, every option. The lists here are written by hand from the trade's rules, not read from data/repairs.
RSpec.describe Gadwall::Repair::Composer do
  catalogue = Gadwall::Knowledge.catalogue

  # One place and what is done there. line: names for a failure message.
  Case =
    Struct.new(:sheet, :circuit, :fault, :option, :steps, keyword_init: true) do
      def line
        shown = sheet.answers.slice("power", "booster", "park_brake", "unit", "system_voltage").values.join(", ")
        "#{circuit.id} #{fault.id} by #{option.id} (#{shown})"
      end

      def ids
        @ids ||= steps.map(&:id)
      end

      # Does one of the first stand in the plan, before every one of the others that stands there?
      def before?(first, *others)
        at = ids.index { |id| Array(first).include?(id) }
        !at.nil? && others.flatten.all? { |other| ids.index(other).nil? || at < ids.index(other) }
      end

      def after?(last, *others)
        at = ids.rindex { |id| Array(last).include?(id) }
        !at.nil? && others.flatten.all? { |other| ids.rindex(other).nil? || at > ids.rindex(other) }
      end

      def work
        ids.grep(/\Ado_/)
      end

      def step(id)
        steps.find { |each| each.id == id }
      end
    end

  WHOLE = { "name" => "law", "stability" => "yes", "single_wire" => "yes", "pad_wear_front" => "two" }.freeze
  VEHICLES =
    %w[combustion hybrid electric]
      .product(%w[vacuum electric_pump air], %w[lever cable_puller caliper_motor], %w[one_piece separate], %w[12 24])
      .each_with_index
      .map do |(power, booster, park_brake, unit, volts), n|
        WHOLE.merge(
          "sensors" => %w[passive active direction][n % 3],
          "power" => power,
          "booster" => booster,
          "park_brake" => park_brake,
          "unit" => unit,
          "system_voltage" => volts,
          "pad_wear_rear" => %w[one two unit][n % 3],
          "towing" => %w[none trailer_brake_module trailer][n % 3]
        )
      end
      .freeze
  SUSPECT = Struct.new(:members, :repair)

  def self.cases(sheet, catalogue)
    vehicle = Gadwall::Vehicle::Sheet.new(sheet)
    system = Gadwall::Vehicle::System.build(vehicle, models: CoreHelp::MODELS)
    system.circuits.flat_map do |circuit|
      circuit
        .model
        .faults
        .uniq { |fault| [fault.place, fault.repair] }
        .flat_map do |fault|
          options(catalogue, circuit, fault).map { |option| of(vehicle, circuit, fault, option, catalogue) }
        end
    end
  end

  def self.options(catalogue, circuit, fault)
    catalogue.repairs.values.select do |option|
      option["repair"] == fault.repair && (option["families"].nil? || option["families"].include?(circuit.family))
    end
  end

  def self.of(vehicle, circuit, fault, record, catalogue)
    option = Gadwall::Decision::Options::Choice.new(id: record["id"], needs: record["needs"])
    suspect = SUSPECT.new([[circuit, fault]], fault.repair)
    steps = described_class.steps(vehicle, [[suspect, option]], catalogue)
    Case.new(sheet: vehicle, circuit: circuit, fault: fault, option: option, steps: steps)
  end

  ALL = VEHICLES.flat_map { |sheet| cases(sheet, catalogue) }.freeze

  IN_THE_FLUID = %w[
    new_pump
    rebuilt_pump
    new_hydraulic_unit
    new_accumulator
    new_booster
    leak_mended
    leak_found
    new_caliper
    circuit_bled
  ].freeze

  # Is a line, a part with fluid in it, or the unit itself opened?
  def self.fluid?(each)
    one_piece = each.sheet.answers["unit"] == "one_piece" && %w[abs accumulator].include?(each.circuit.module)
    IN_THE_FLUID.include?(each.option.id) ||
      (each.circuit.family == "pressure_sensor" && each.fault.repair == "renew_sensor") ||
      (each.fault.repair == "renew_module" && one_piece)
  end

  # Do hands go where orange cable may lie: the accumulator and what belongs to it, pump, hydraulic unit and its module?
  def self.orange?(each)
    return false if each.sheet.answers["power"] == "combustion"

    %w[accumulator valves].include?(each.circuit.family) ||
      (each.circuit.family == "pump" && each.fault.place.include?("pump")) ||
      (each.circuit.family == "pressure_sensor" && each.fault.repair == "renew_sensor") ||
      (each.fault.repair == "renew_module" && %w[abs accumulator].include?(each.circuit.module))
  end

  # Work at a wheel of the axle with park brake motors.
  def self.motor_axle?(each)
    each.sheet.answers["park_brake"] == "caliper_motor" &&
      (%w[new_caliper new_motor].include?(each.option.id) || rear_brake?(each) || motor_lead?(each))
  end

  def self.rear_brake?(each)
    (each.circuit.id.start_with?("pad_wear_rear") && %w[new_pads new_loop].include?(each.option.id)) ||
      (each.circuit.id.start_with?("rear_") && each.option.id == "hub_with_sensor")
  end

  def self.motor_lead?(each)
    each.circuit.family == "park_brake_motor" && wheel_off?(each)
  end

  def self.wheel_off?(each)
    harness = each.circuit.harness
    (harness.connectors + harness.sections).any? { |spot| spot.id == each.fault.place && spot.needs == "wheel_off" }
  end

  def self.at_the_wheel?(each)
    wheel_off?(each) || %w[new_pads new_loop new_motor new_caliper hub_with_sensor].include?(each.option.id) ||
      (each.circuit.family == "wheel_speed" && %w[sensor ring].include?(each.fault.place))
  end

  WRITES = %w[code calibrate run_in_park_brake end_test save_parameters].freeze
  SUPPORT = %w[support_battery support_battery_24 battery_on battery_on_24].freeze

  # [law, what it speaks of, what must hold]
  LAWS = {
    "pressure let out and read before the fluid of an accumulator system is opened" => [
      ->(each) { fluid?(each) && each.sheet.answers["booster"] == "electric_pump" },
      lambda do |each|
        each.before?("depressurise", "pump_off", "battery_off", "hv_off", each.work) &&
          each.step("depressurise").asks.values_at("unit", "low", "high") == ["bar", 0, 5] &&
          each.before?("pump_off", each.work) && each.after?("pump_on", each.work)
      end
    ],
    "fluid filled, bled and the pedal firm after it was opened, before anything is learned" => [
      ->(each) { fluid?(each) },
      lambda do |each|
        each.after?("bleed", each.work, "fluid") && each.after?("pedal", "bleed") &&
          each.before?("bleed", "calibrate", "run_in_park_brake", "end_test", "bed_in")
      end
    ],
    "high voltage off, waited out and read at 3 V or less before the work, given back after it" => [
      ->(each) { orange?(each) },
      lambda do |each|
        each.before?("hv_off", "hv_wait") && each.before?("hv_wait", "hv_zero") && each.before?("hv_zero", each.work) &&
          each.step("hv_wait").wait_minutes >= 5 && each.step("hv_zero").asks.values_at("unit", "high") == ["V", 3] &&
          each.after?("hv_on", each.work)
      end
    ],
    "service mode before the work on an axle with park brake motors, applied and released after it" => [
      ->(each) { motor_axle?(each) },
      lambda do |each|
        each.before?("service_position", "battery_off", "lift", each.work) &&
          each.after?("run_in_park_brake", each.work)
      end
    ],
    "stands before and torque after whatever needs the wheel off" => [
      ->(each) { at_the_wheel?(each) },
      ->(each) { each.before?("lift", each.work) && each.after?("torque", each.work) }
    ],
    "12 V given back and supported before anything is written or learned" => [
      ->(each) { each.ids.intersect?(WRITES) },
      lambda do |each|
        supported = each.ids.index { |id| SUPPORT.include?(id) }
        off = each.ids.index { |id| %w[battery_off hv_off].include?(id) }
        back = each.ids.index { |id| %w[battery_on battery_on_24].include?(id) }
        written = (each.ids & (WRITES - ["save_parameters"])).map { |id| each.ids.index(id) }.min || each.ids.size
        !supported.nil? && supported < written && (off.nil? || (!back.nil? && off < back && back < written))
      end
    ],
    "voltages that the vehicle's own system can have" => [
      ->(each) { each.ids.intersect?(SUPPORT) },
      lambda do |each|
        nominal = each.sheet.answers["system_voltage"].to_i
        (each.ids & SUPPORT).all? do |id|
          asks = each.step(id).asks
          (nominal * 1.1).between?(asks["low"], asks["high"])
        end
      end
    ],
    "a lost park brake position learned by applying and releasing, never as a steering angle" => [
      ->(each) { each.circuit.id.start_with?("park_brake") && each.fault.repair == "calibrate" },
      ->(each) { each.ids.include?("run_in_park_brake") && !each.ids.include?("calibrate") }
    ],
    "a hold on every step that protects people, with its caution" => [
      ->(_) { true },
      lambda do |each|
        protecting =
          each.steps.select do |step|
            %w[depressurise pump_off hv_off hv_wait hv_zero hv_on lift service_position bleed].include?(step.id)
          end
        protecting.all? { |step| step.hold && step.caution.to_s.length > 20 }
      end
    ],
    "the pre-scan saved before everything" => [->(_) { true }, ->(each) { each.ids.first == "save_scan" }]
  }.freeze

  LAWS.each do |law, (speaks_of, holds)|
    it "has #{law}" do
      met = ALL.select { |each| self.class.instance_exec(each, &speaks_of) }
      wrong = met.reject { |each| self.class.instance_exec(each, &holds) }
      expect(met.size).to be > 5
      expect(wrong.map { |each| "#{each.line}: #{each.ids.join(" ")}" }.first(6)).to eq([]),
      lambda {
        "#{wrong.size} of #{met.size}: #{
          wrong.first(6).map { |each| "#{each.line}: #{each.ids.join(" ")}" }.join("\n")
        }"
      }
    end
  end

  it "speaks of every option and every kind of part" do
    expect(ALL.map { |each| each.option.id }.uniq).to match_array(catalogue.repairs.keys - %w[watch no_fault_found])
    expect(ALL.size).to be > 10_000
  end

  it "leaves nobody on the road with what is unsafe, whatever was said at check-in" do
    {
      "brake_switch/switch.never_closes" => "dark_brake_lights",
      "brake_switch/fuse_box.blown" => "dark_brake_lights",
      "fluid_level/fluid.low" => "low_fluid",
      "fluid_level/float_switch.stuck_full" => "low_fluid",
      "accumulator/pump_part.worn" => "soft_pedal",
      "accumulator/pipes.leak_outside" => "low_fluid",
      "park_brake_motor/motor.open" => "park_brake_fails"
    }.each do |name, triage|
      family, fault_name = name.split("/")
      circuit = ALL.map(&:circuit).find { |each| each.family == family }
      fault = circuit.model.faults.find { |each| "#{each.place}.#{each.mode}" == fault_name }
      suspect = SUSPECT.new([[circuit, fault]], fault.repair)
      expect(Gadwall::Decision::OffRoad.triage(suspect, catalogue)).to include(triage), name
    end
  end

  it "refuses every part that costs much while the diagnosis is not proven" do
    dear = %w[
      new_module
      rebuilt_module
      used_module
      new_hydraulic_unit
      new_booster
      new_accumulator
      new_pump
      new_modulator
      new_slave
      new_unit
      other_module
      new_caliper
    ]
    expect(catalogue.repairs.slice(*dear).values.map { |record| record["dear"] }).to eq([true] * dear.size)
  end
end
