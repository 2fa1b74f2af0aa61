# frozen_string_literal: true

RSpec.describe Gadwall::Diagnosis::NextTests, :simulation do
  # HS-01: handbook: half-split troubleshooting, from memory. Eight sections of equal cost and one open: three tests.
  it "HS-01 halves a run of eight sections" do
    connectors = (0..8).map { |i| { "id" => "j#{i}", "minutes" => 1, "pins" => { "signal" => "1", "return" => "2" } } }
    sections = Array.new(8) { { "length_m" => 0.5, "cross_section_mm2" => 0.5 } }
    system = system_with("passive", circuits: { "front_left" => { "joints" => connectors, "sections" => sections } })
    counts =
      (0..7).map do |k|
        entries = [scan("C0031-13"), { "kind" => "symptoms", "ids" => ["at_key_on"] }]
        ids = %w[resistance bias].product((1..7).to_a).map { |name, j| "front_left.#{name}.j#{j}" }
        count = 0
        known = assess(system, *entries)
        until within_one_section?(known) || count == 8
          option = known.next_tests.find { |each| ids.include?(each.id) }
          entries << simulated(system, "front_left.wire_signal.j#{k}_to_j#{k + 1}.open", option)
          known = assess(system, *entries)
          count += 1
        end
        count
      end
    expect(counts.sum / 8.0).to be <= Math.log2(8) + 1
  end

  # HS-03: handbook: Huffman coding, from memory: an easy plug near the middle beats the exact middle under a carpet.
  it "HS-03 goes to an easy connector near the middle rather than to the middle under the carpet" do
    connectors =
      (0..8).map do |i|
        { "id" => "j#{i}", "minutes" => i == 4 ? 45 : 1, "pins" => { "signal" => "1", "return" => "2" } }
      end
    sections = Array.new(8) { { "length_m" => 0.5, "cross_section_mm2" => 0.5 } }
    system = system_with("passive", circuits: { "front_left" => { "joints" => connectors, "sections" => sections } })
    first =
      assess(
        system,
        scan("C0031-13"),
        { "kind" => "symptoms", "ids" => ["at_key_on"] },
        reading("front_left.resistance.j8", "1.1k") # the sensor is sound: what is left is the run
      ).next_tests.find { |each| each.id.match?(/front_left\.(resistance|bias)\.j[1-7]/) }
    expect(first.id).to match(/j[2356]\z/)
  end

  def within_one_section?(assessment)
    sections = assessment.posterior.places.select { |name, _| name.match?(/j\d_to_j\d/) }
    sections.values.max > 0.6 * sections.values.sum
  end

  def simulated(system, truth, option)
    vehicle =
      Gadwall::Evaluation::OwnCircuits::SimulatedVehicle.new(system, truth: truth, random: Random.new(1), noise: 0.0)
    reading(option.id, vehicle.perform(option.circuit, option.test).to_s)
  end
end
