# frozen_string_literal: true

require "spec_helper"

# The order of codes within a scan is the tool's own and says nothing.
RSpec.describe "The order of codes in a scan" do
  vehicles = [
    { "sensors" => "passive" },
    { "sensors" => "active", "stability" => "yes", "park_brake" => "caliper_motor", "brake_switch" => "two" },
    { "sensors" => "active", "booster" => "electric_pump", "fluid_level" => "three" }
  ]
  codes = %w[C0031 C0034 C0037 C003A C0110 C0121 C0131 C0196 C0051 C0267 C0070 U0121 U0129 C0040 C0161]
  types = %w[11 12 13 14 1C 29 31 38 54 62 64 08]
  status = ["current", "history", nil]

  def assessed(system, rows)
    scan = { "kind" => "scan", "modules" => [{ "name" => "ABS", "answered" => true }], "codes" => rows }
    Gadwall::Diagnosis.assess(system, Gadwall::Job::Log.new([scan], system).body)
  end

  def told(assessment)
    [
      assessment.posterior.places.first(12).map { |place, p| [place, p.round(12)] },
      assessment.next_tests.first(5).map(&:id),
      assessment.verdict.state
    ]
  end

  systems =
    vehicles.map do |vehicle|
      Gadwall::Vehicle::System.build(
        Gadwall::Vehicle::Sheet.new({ "name" => "x" }.merge(vehicle)),
        models: CoreHelp::MODELS
      )
    end

  4.times do |quarter|
    it "changes nothing, 50 seeded scans (#{quarter + 1} of 4)" do
      Array
        .new(50) { |i| (quarter * 50) + i }
        .each do |seed|
          random = Random.new(seed)
          rows =
            Array.new(random.rand(2..5)) do
              { "code" => codes.sample(random: random), "failure_type" => types.sample(random: random) }
            end
          rows = rows.map { |row| row.merge("status" => status.sample(random: random)).compact }
          rows << rows.first.merge("failure_type" => "62") if seed.even? # two of one circuit
          system = systems[seed % systems.size]
          plain, other = [rows, rows.shuffle(random: random)].map { |each| told(assessed(system, each)) }
          expect([seed, other]).to eq([seed, plain])
        end
    end
  end

  it "is the case that was told: an open coil and an implausible signal, either way round" do
    both = %w[13 62].map { |type| { "code" => "C0031", "failure_type" => type, "status" => "current" } }
    expect(told(assessed(systems.first, both.reverse))).to eq(told(assessed(systems.first, both)))
  end
end
