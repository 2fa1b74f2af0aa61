# frozen_string_literal: true

module Gadwall
  module Decision
    # What keeps a vehicle off the road until the fault is found: said at intake, or shown by the diagnosis itself.
    module Triage
      # {id => words}, in the order in which they are asked.
      WORDS = {
        "red_lamp" => "red brake warning lamp on",
        "soft_pedal" => "brake pedal soft, sinking or without effect",
        "dark_brake_lights" => "brake lights do not light",
        "brake_lights_on" => "brake lights always on",
        "park_brake_fails" => "park brake will not hold or release",
        "low_fluid" => "brake fluid low"
      }.freeze
      ASKED = %w[red_lamp soft_pedal dark_brake_lights park_brake_fails].freeze

      # ids: Array of String. Returns their words; an id that is not known stands for itself.
      def self.words(ids)
        ids.map { |id| WORDS.fetch(id, id.tr("_", " ")) }
      end
    end
  end
end
