# frozen_string_literal: true

# Every kind of vehicle, and whatever can be mended on it.
module EveryWork
  KINDS = {
    **Gadwall::Evaluation::OwnCircuits::Study::VEHICLES,
    "electric van" => {
      "power" => "electric",
      "booster" => "electric_pump",
      "booster_box" => "one_box",
      "park_brake" => "caliper_motor",
      "park_brake_driver" => "abs",
      "stability" => "yes",
      "pad_wear_rear" => "one"
    },
    "unit on the frame" => {
      "unit_place" => "frame",
      "towing" => "trailer_brake_module",
      "stability" => "yes",
      "unit" => "separate"
    },
    "cables and bearings" => {
      "sensor_with_hub" => "both",
      "ring_front" => "bearing_seal",
      "ring_rear" => "bearing_seal",
      "park_brake" => "cable_puller",
      "pad_wear_rear" => "one"
    },
    "three sensors" => {
      "layout" => "three_sensors",
      "sensors" => "passive",
      "park_brake" => "caliper_motor",
      "pad_wear_rear" => "two"
    },
    "air and stability" => {
      "booster" => "air",
      "stability" => "yes",
      "pad_wear_rear" => "one",
      "towing" => "trailer"
    }
  }.freeze
  SYSTEMS =
    KINDS
      .to_h do |name, sheet|
        sheet = Gadwall::Vehicle::Sheet.new({ "name" => name }.merge(sheet))
        [name, Gadwall::Vehicle::System.build(sheet, models: CoreHelp::MODELS)]
      end
      .freeze
  # Every place of every circuit with every option that mends it.
  WORKS =
    SYSTEMS
      .transform_values do |system|
        system.circuits.flat_map do |circuit|
          circuit
            .model
            .faults
            .map(&:place)
            .uniq
            .flat_map do |place|
              options = Gadwall::Decision::PlaceOptions.new(system, "#{circuit.id}/#{place}")
              options.send(:records).map { |record| options.send(:work_of, record) }
            end
        end
      end
      .freeze

  # Those of a kind of vehicle whose plans differ: works that touch the same and are done alike have the same plan.
  def self.alike(name)
    sheet = SYSTEMS.fetch(name).sheet
    WORKS
      .fetch(name)
      .uniq do |work|
        touched = Gadwall::Repair::Touches.words(sheet, [work], Gadwall::Knowledge.catalogue)
        [touched, work.option, work.repair, work.family]
      end
  end
end
