# frozen_string_literal: true

# Hidden faults found by always doing the recommended test, 20 seeded runs each (60 where the fault comes and goes),
# readings with 3 percent noise out of the same solved circuits. A run counts as right when the place to be mended is
# right and the verdict is at least likely.
RSpec.describe Gadwall::Evaluation::OwnCircuits::Run, :simulation do
  truths = {
    "wire broken between the body connector and the sensor" => [
      "wire_%s.body_connector_to_sensor_plug.open",
      1.0,
      "at_key_on"
    ],
    "sensor open" => ["sensor.open", 1.0, "at_key_on"],
    "tone ring sprung at a crack" => ["ring.sprung", 1.0, "walking_pace"],
    "connector high resistance, intermittent" => ["body_connector.%s.high_resistance", 0.3, "comes_and_goes"],
    "module input dead" => ["module_input.dead", 1.0, "above_speed"]
  }

  %w[passive active]
    .product(truths.to_a)
    .each do |kind, (name, (pattern, presence, symptom))|
      it "finds '#{name}' on the #{kind} sensor in 95 of 100 runs, median 6 tests or fewer" do
        system = system_with(kind)
        truth = "front_left.#{format(pattern, kind == "passive" ? "signal" : "feed")}"
        assess = remembering
        count = { 1.0 => 20 }.fetch(presence, 60)
        results = (1..count).map { |seed| run(system, truth, presence, symptom, seed, assess) }
        right = results.count { |result| right?(result, system, truth) }
        tests = results.map { |result| result.tests.size }.sort
        RSpec.configuration.reporter.message(
          "  #{kind}, #{name}: #{right} of #{count} right, median " \
            "#{tests[count / 2]} tests, " \
            "#{results.map(&:minutes).sort[count / 2]} min, #{results.count { |result| result.verdict.proven? }} proven"
        )
        expect(right).to be >= 0.95 * count
        expect((tests[(count / 2) - 1] + tests[count / 2]) / 2.0).to be <= 6
      end
    end

  # The same evidence, the same answer: what many runs begin with is assessed once.
  def remembering
    seen = {}
    lambda do |system, body|
      told = [
        body.scans.map { |scan| [scan.answered, scan.codes.map(&:to_h)] },
        body.observations.map { |each| [each.circuit.id, each.test.id, each.result] }
      ]
      seen[told] ||= Gadwall::Diagnosis.assess(system, body)
    end
  end

  # The vehicle came in with a warning, so its first scan holds a code.
  def run(system, truth, presence, symptom, seed, assess)
    random = Random.new(seed)
    vehicle = nil
    scan = nil
    until scan&.codes&.any?
      vehicle =
        Gadwall::Evaluation::OwnCircuits::SimulatedVehicle.new(system, truth: truth, random: random, presence: presence)
      scan = vehicle.scan
    end
    described_class.diagnose(system, vehicle, scan: scan, symptoms: [symptom], assess: assess)
  end

  def right?(result, system, truth)
    result.verdict.state != "open" && result.verdict.suspect.place == "front_left/#{system.fault(truth).last.place}"
  end
end
