# frozen_string_literal: true

module Gadwall
  module Tests
    # What a test asks for before the hands move: a bulb, a second person, the key, a road. Read from its state and its
    # text, so that no test can forget to say so.
    module Needs
      SETTINGS = {
        "bulb" => "%{load} fitted",
        "valve_bulb" => "%{load} fitted at the valve feed",
        "jumper" => "fused jumper"
      }.freeze
      WORDS = {
        /\bhelper\b/i => "a helper",
        /known-good/i => "a known-good part",
        /\btest wheel\b/i => "a test wheel",
        /\bcurrent clamp\b/i => "current clamp",
        /\boscilloscope\b/i => "oscilloscope",
        /\bscan tool\b|\blive data\b|\bDTCs?\b/i => "scan tool"
      }.freeze
      KEY = { "on" => "key on, engine off", "off" => "key off" }.freeze

      # test: Test. Returns Array of words.
      def self.of(test)
        text = "#{test.title} #{test.where}"
        key = KEY[test.state.key] if test.state.settings.key?("key") || text.match?(/key off/i)
        [
          key,
          *SETTINGS.filter_map { |name, words| format(words, load: test.load || "test bulb") if test.state[name] },
          *WORDS.filter_map { |pattern, words| words if text.match?(pattern) },
          ("road or yard" if test.access.any? { |name, _| name == "drive" })
        ].compact.uniq
      end
    end
  end
end
