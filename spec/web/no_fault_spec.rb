# frozen_string_literal: true

require "web_helper"

# A vehicle with nothing wrong any more: the verdict is one of its own, and the job goes on from it.
RSpec.describe "No fault found", :web do
  def decide(number, **fields)
    submit("/jobs/#{number}/decide", "/jobs/#{number}/decide", words: "", **fields)
  end

  it "is concluded, authorised, verified and handed over like any other" do
    number = job(codes: "C0031-31 history")
    {
      "live_speed" => "even",
      "shake_live.module_plug" => "good",
      "clear_codes" => "good",
      "look_joint.sensor_plug" => "good",
      "look_ring" => "good",
      "shake_beyond.module_plug" => "good",
      "twin_scope" => "even",
      "resistance.module_plug" => "1.1k",
      "insulation.module_plug" => "OL",
      "bias.sensor_plug" => "2.5",
      "wiggle_joint.body_connector" => "good"
    }.each { |test, value| read(number, "front_left.#{test}", value) }
    %w[front_right rear_left rear_right].each { |corner| read(number, "#{corner}.live_speed", "even") }
    read(number, "return_pump.run_pump", "good")
    read(number, "brake_switch.rear_lamps", "good")
    verdict = workshop.dossier(number).assessment.verdict
    expect([verdict.suspect.id, verdict.state]).to eq(%w[none proven]), verdict.probability.to_s
    get "/jobs/#{number}/trace"
    expect(text).to include("No fault found")
    decide(number, option: "no_fault_found", signed_by: "A. Reed")
    expect(last_response.status).to eq(303)
    %w[trace decide repair proof report].each { |page| expect(get("/jobs/#{number}/#{page}").status).to eq(200), page }
  end
end
