# frozen_string_literal: true

module Gadwall
  module Tests
    # What a test asks for before the hands move, in words: a load, a second person, the key, a road. By its state, by
    # the ways that it needs, and by what its record says (`asks`).
    module Needs
      LOADS = { "bulb" => "%{load} fitted", "valve_bulb" => "%{load} fitted at the valve feed" }.freeze
      SETTINGS = { **LOADS, "jumper" => "fused jumper" }.freeze
      KEY = { "on" => "key on, engine off", "off" => "key off" }.freeze
      ASKED = {
        "key_off" => KEY["off"],
        "helper" => "a helper",
        "known_good_part" => "a known-good part",
        "test_wheel" => "a test wheel",
        "current_clamp" => "current clamp",
        "oscilloscope" => "oscilloscope",
        "scan_tool" => "scan tool"
      }.freeze

      # test: Test. Returns Array of words.
      def self.of(test)
        [
          *KEY[test.record.dig("state", "key")],
          *(ASKED["key_off"] if asks(test).include?("key_off")),
          *SETTINGS.filter_map { |name, words| format(words, load: test.load || "test bulb") if test.state[name] },
          *ASKED.slice(*asks(test)).values,
          *("road or yard" if test.access.any? { |name, _| name == "drive" })
        ].uniq
      end

      def self.asks(test)
        test.record["asks"] || []
      end
      private_class_method :asks
    end
  end
end
