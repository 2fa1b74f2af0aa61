# frozen_string_literal: true

module Gadwall
  # The vehicle at hand.
  module Vehicle
    # Corner ids in the order in which they are drawn: left and right as seated in driving direction.
    CORNERS = {
      "front_left" => "front left",
      "front_right" => "front right",
      "rear_left" => "rear left",
      "rear_right" => "rear right",
      "rear_axle" => "rear axle"
    }.freeze
    LAYOUTS = {
      "four_sensors" => %w[front_left front_right rear_left rear_right],
      "three_sensors" => %w[front_left front_right rear_axle]
    }.freeze
    SENSOR_KINDS = %w[passive active direction].freeze
    MODULE = "abs_module"

    # What a sheet may say, and what is assumed where it says nothing: the first value of each.
    FIELDS = {
      "layout" => LAYOUTS.keys,
      "power" => %w[combustion hybrid electric],
      "booster" => %w[vacuum electric_pump air],
      "park_brake" => %w[lever cable_puller caliper_motor],
      "driver_side" => %w[left right],
      "pump" => %w[relay none],
      "fluid_level" => %w[closes opens three none],
      "brake_switch" => %w[one two signal none],
      "pad_wear_front" => %w[none one two unit],
      "pad_wear_front_right" => %w[none one],
      "pad_wear_rear" => %w[none one two unit],
      "pad_wear_rear_left" => %w[none one],
      "stability" => %w[no yes],
      "bus" => %w[two_wire none],
      "single_wire" => %w[no yes],
      "towing" => %w[none trailer_brake_module trailer],
      "unit" => %w[one_piece separate],
      "unit_place" => %w[engine_bay frame under_inverter],
      "ring_front" => %w[shaft hub disc bearing_seal],
      "ring_rear" => %w[hub shaft disc bearing_seal axle],
      "sensor_with_hub" => %w[no front rear both],
      "sensor_lead" => %w[plug pigtail],
      "booster_box" => %w[separate one_box],
      "park_brake_driver" => %w[own abs],
      "system_voltage" => %w[12 24]
    }.freeze
  end
end
