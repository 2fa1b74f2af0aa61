# frozen_string_literal: true

module Gadwall
  # The vehicle at hand.
  module Vehicle
    # Corner ids in the order in which they are drawn: left and right as seated in driving direction.
    CORNERS = { "front_left" => "front left", "front_right" => "front right", "rear_left" => "rear left", "rear_right" => "rear right",
                "rear_axle" => "rear axle" }.freeze
    LAYOUTS = { "four_sensors" => %w[front_left front_right rear_left rear_right], "three_sensors" => %w[front_left front_right rear_axle] }.freeze
    SENSOR_KINDS = %w[passive active].freeze
    MODULE = "abs_module"
  end
end
