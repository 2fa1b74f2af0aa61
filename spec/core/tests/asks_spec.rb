# frozen_string_literal: true

require "spec_helper"

# What a test asks for, and what it warns of, stands in fields of its record: no record whose words speak of a helper, a
# scan tool or a bulb may forget to say so.
RSpec.describe Gadwall::Tests::Needs do
  words = {
    "helper" => /\bhelper\b/i,
    "known_good_part" => /known-good/i,
    "test_wheel" => /\btest wheel\b/i,
    "current_clamp" => /\bcurrent clamp\b/i,
    "oscilloscope" => /\boscilloscope\b/i,
    "scan_tool" => /\bscan tool\b|\blive data\b|\bDTCs?\b/i
  }
  dangers = { "live_cable" => /Battery negative off/i, "brake_fluid" => /draw (?:the )?fluid|syringe/i }
  catalogue = Gadwall::Knowledge.catalogue
  tests =
    catalogue.circuits.each_value.flat_map do |template|
      Gadwall::Tests::Expansion.tests(Gadwall::Circuits::Harness.new(template, {}, catalogue), catalogue)
    end

  it "are asked for by every record that speaks of them" do
    forgot =
      tests.flat_map do |test|
        text = "#{test.title} #{test.where}"
        words
          .select { |ask, pattern| text.match?(pattern) && !(test.record["asks"] || []).include?(ask) }
          .map { |ask, _| "#{test.id}: #{ask}" }
      end
    expect(forgot.uniq).to eq([])
    expect(tests.count { |test| test.needs.include?("a helper") }).to be > 10
  end

  it "come with the cautions of what is fitted and done" do
    forgot =
      tests.flat_map do |test|
        text = "#{test.title} #{test.where}"
        asked = dangers.select { |_, pattern| text.match?(pattern) }.keys
        asked << "hot_bulb" if test.needs.any? { |need| need.include?("bulb") && need.include?("fitted") }
        (asked - test.cautions).map { |caution| "#{test.id}: #{caution}" }
      end
    expect(forgot.uniq).to eq([])
  end

  it "tell what hangs in a socket apart from what hangs on a cable" do
    titles = tests.select { |test| test.id == "reseat.relay_socket" }.map(&:title).uniq
    expect(titles).to eq(["Pull, clean and reseat the relay; is the warning still there?"])
    relays = tests.select { |test| test.id == "reseat.relay_socket" }
    expect(relays.map { |test| [test.cautions.include?("live_cable"), test.needs.include?("key off")] }.uniq).to eq(
      [[true, true]]
    )
  end
end
