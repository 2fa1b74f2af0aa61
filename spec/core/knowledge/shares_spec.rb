# frozen_string_literal: true

# How often the parts of a circuit are to blame, against the trade's shares (reference rows BA-03 and TF-03 of
# shared/design/reference-values.md; from memory), whatever the harness looks like.
RSpec.describe "Shares of causes" do
  # Percent of the vehicles with a fault of that circuit, by part; "harness" is all wiring. Within 5 points.
  {
    "wheel_speed_active" => {
      "sensor" => 43,
      "harness" => 30,
      "ring" => 19,
      "module_input" => 6
    },
    "wheel_speed_passive" => {
      "sensor" => 35,
      "harness" => 30,
      "ring" => 28,
      "module_input" => 4
    },
    "return_pump" => {
      "pump" => 53,
      "harness" => 30,
      "driver" => 8,
      "relay" => 9
    },
    "sensor_cluster" => {
      "zero" => 35,
      "sensor" => 28,
      "harness" => 22,
      "mount" => 10,
      "sensor_port" => 5
    },
    "brake_switch_one" => {
      "switch" => 60,
      "harness" => 38
    },
    "fluid_level_closes" => {
      "fluid" => 60,
      "float_switch" => 20,
      "harness" => 18
    },
    "pad_wear_one" => {
      "pads" => 58,
      "loop" => 28,
      "harness" => 12,
      "wear_input" => 2
    },
    "park_brake_motor" => {
      "motor" => 34,
      "harness" => 31,
      "caliper" => 15,
      "position" => 12,
      "bridge" => 5
    }
  }.each do |template, shares|
    it "stand as the trade has them: #{template}" do
      seen = by_part(harness(template))
      shares.each { |part, percent| expect(seen.fetch(part)).to be_within(5).of(percent), "#{part}: #{seen}" }
    end
  end

  # Laws over harnesses drawn by seed: more connectors, longer or shorter sections, named pins.
  20.times do |seed|
    it "do not change with the harness (seed #{seed})" do
      random = Random.new(seed)
      template = %w[wheel_speed_active wheel_speed_passive park_brake_motor pressure_sensor].sample(random: random)
      plain = by_part(harness(template))
      other = by_part(harness(template, drawn(template, random)))
      plain.each { |part, percent| expect(other.fetch(part)).to be_within(1e-9).of(percent) }
    end
  end

  it "let an exposed connector and a section that flexes fail more often than others of their kind" do
    faults = Gadwall::Circuits::FaultList.for(harness("wheel_speed_passive"), catalogue)
    rate = ->(place) { faults.select { |fault| fault.place == place }.sum(&:rate) }
    expect(rate.call("sensor_plug")).to be > rate.call("body_connector")
    expect(rate.call("body_connector_to_sensor_plug")).to be > rate.call("module_plug_to_body_connector")
  end

  it "are given for every part of every circuit" do
    catalogue.circuits.each_key do |template|
      faults = Gadwall::Circuits::FaultList.for(harness(template), catalogue)
      expect(faults.sum(&:rate)).to be_within(1e-9).of(catalogue.circuits[template]["rate"])
    end
  end

  def catalogue
    Gadwall::Knowledge.catalogue
  end

  def harness(template, adaptation = {})
    Gadwall::Circuits::Harness.new(catalogue.circuits.fetch(template), adaptation, catalogue)
  end

  # {part => percent}.
  def by_part(harness)
    wiring = (harness.connectors + harness.sections).map(&:id)
    faults = Gadwall::Circuits::FaultList.for(harness, catalogue)
    whole = faults.sum(&:rate)
    faults
      .group_by { |fault| wiring.include?(fault.place) ? "harness" : fault.place }
      .transform_values { |same| 100 * same.sum(&:rate) / whole }
  end

  # The template's connectors with some more between them, all sections of other lengths.
  def drawn(template, random)
    joints = catalogue.circuits.fetch(template)["joints"]
    more = Array.new(random.rand(1..4)) { |i| { "id" => "extra_#{i}", "exposed" => random.rand < 0.5 } }
    joints = [joints.first, *more, *joints.drop(1)]
    sections =
      Array.new(joints.size - 1) do
        { "length_m" => 0.2 + (random.rand * 5), "cross_section_mm2" => 0.5, "flexes" => random.rand < 0.3 }
      end
    { "joints" => joints, "sections" => sections }
  end
end
