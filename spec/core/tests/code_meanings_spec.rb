# frozen_string_literal: true

# What codes do to the suspects, and what is said of those that stand for no circuit of the vehicle.
RSpec.describe "Meanings of codes" do
  let(:estate) { system_with("active", stability: "yes", park_brake: "caliper_motor") }

  def told(*codes)
    assess(estate, scan(*codes))
  end

  def share(assessment, place)
    assessment.posterior.places.fetch(place, 0.0)
  end

  it "keeps the ring among the suspects of a signal that changes too fast (C0031-27)" do
    expect(share(told("C0031-27"), "front_left/ring")).to be > 0.1
  end

  it "takes a park brake motor's overcurrent for a short as well as for a seized caliper (-19)" do
    row = { "code" => "C1B11", "failure_type" => "19", "status" => "current", "text" => "park brake motor left" }
    assessment = told(row)
    expect(share(assessment, "park_brake_left/caliper")).to be < 0.7
    shorted = assessment.suspects.select { |suspect| suspect.fault&.mode.to_s.start_with?("short") }
    expect(shorted.sum(&:probability)).to be > 0.05
  end

  it "does not take a yaw sensor's offset for a missing calibration alone (-28)" do
    assessment = told("C0063-28")
    expect(share(assessment, "yaw_sensor/zero")).to be < 0.9
    expect(share(assessment, "yaw_sensor/sensor")).to be > 0.05
  end

  it "leads from a valve's code to the valves" do
    expect(told("C0010-13").verdict.suspect.circuit.id).to eq("valves")
  end

  it "takes invalid data of the ABS module for a consequence of what is wrong in its circuits, never for a circuit" do
    assessment = told("C0031-13", "U0415")
    row = assessment.explanations.rows.find { |each| each.code.code == "U0415" }
    expect([row.kind, row.code.circuit_id, row.code.about]).to eq(["symptom", nil, "abs"])
    alone = told("U0415").explanations.rows.first
    expect(alone.kind).to eq("elsewhere")
  end

  it "says of a known code that it belongs to no circuit of the sheet, and keeps it open" do
    row = told("C0031-13", "P0501").explanations.rows.find { |each| each.code.code == "P0501" }
    expect(row.kind).to eq("elsewhere")
    unknown = told({ "code" => "71A3", "status" => "current", "text" => "function restricted" }).explanations.rows.first
    expect(unknown.kind).to eq("not_placed")
  end

  # UD-08: a status of 50 after clearing is no pass (ISO 14229-1; from memory).
  it "takes a record that was not tested since clearing for neither a code nor a pass" do
    row = { "code" => "C0031", "failure_type" => "13", "status" => "50" }
    assessment = assess(estate, scan(row))
    silent = assess(estate, scan)
    expect(assessment.explanations.rows.map(&:kind)).to eq(["not_tested"])
    expect(assessment.posterior.circuit_probability(estate.circuit_named("front_left"))).to be >=
      silent.posterior.circuit_probability(estate.circuit_named("front_left"))
  end

  it "passes no comparison of scans while a monitor has not run" do
    before = { "codes" => [{ "code" => "C0031", "failure_type" => "13", "status" => "2F" }], "modules" => [] }
    after = ->(status) { { "codes" => [{ "code" => "C0031", "failure_type" => "13", "status" => status }] } }
    compare = ->(status) do
      Gadwall::Verification::ScanComparison.new(before, after.call(status).merge("modules" => []))
    end
    expect(
      { "50" => false, "40" => false, "00" => true, "28" => true, "2F" => false }.to_h do |byte, _|
        [byte, compare.call(byte).clean?]
      end
    ).to eq("50" => false, "40" => false, "00" => true, "28" => true, "2F" => false)
  end
end
