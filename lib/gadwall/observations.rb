# frozen_string_literal: true

module Gadwall
  # What was seen, as core values. Items are frozen; their order does not matter to the diagnosis.
  module Observations
    # What may provoke a fault that comes and goes, and words for it.
    CONDITIONS = {
      "wiggled" => "harness wiggled",
      "wet" => "sprayed with water",
      "warm" => "heated",
      "cold" => "cold",
      "driving" => "driving",
      "steering_lock" => "at full lock"
    }.freeze

    # Is the fault there now? As the technician says, and words for it.
    PRESENCES = { "present" => "there now", "absent" => "gone", "fleeting" => "intermittent" }.freeze

    # When a lamp is lit, and words for it.
    LAMP_TIMES = {
      "at_key_on" => "at key on, and stays",
      "after_moving" => "after the first metres",
      "above_speed" => "above a certain speed",
      "now_and_then" => "now and then",
      "flashing" => "flashing",
      "never" => "never lights, not even at key on"
    }.freeze

    # Stands in the place of a code's number where the tool prints only its text.
    NO_NUMBER = "no number"
  end
end
