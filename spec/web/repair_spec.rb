# frozen_string_literal: true

require "web_helper"

# From the first step to the hand-over, and what may still be written then.
RSpec.describe "Repair to hand over", :web do
  let(:number) do
    job(codes: "C0031-13 current").tap do |n|
      [%w[resistance.sensor_plug OL], %w[bias.sensor_plug 5.0]].each do |test, value|
        read(n, "front_left.#{test}", value)
      end
      submit("/jobs/#{n}/decide", "/jobs/#{n}/decide", option: "new_sensor", signed_by: "A. Reed")
    end
  end
  let(:proof) { "/jobs/#{number}/proof" }

  def sign(step, **more)
    submit("/jobs/#{number}/repair", "/jobs/#{number}/repair/#{step}", state: "done", **more)
  end

  def finish_repair
    %w[save_scan lift do_sensor gap].each { |step| sign(step) }
    sign("torque", value: "115")
    sign("clear")
  end

  def verify
    submit(proof, "#{proof}/scan", codes: "", answered: "yes")
    submit(proof, "#{proof}/repeat", reading: "1.06k")
    5.times { post "#{proof}/drive", guards(proof, "#{proof}/drive").merge("result" => "pass") }
  end

  it "opens a step after its hold, and judges the figure that it asks for" do
    fields = guards("/jobs/#{number}/repair", "/jobs/#{number}/repair/save_scan").merge("state" => "done")
    post "/jobs/#{number}/repair/do_sensor", fields
    expect([last_response.status, text]).to match([422, /Sign 'Save pre-scan' first|Lift the vehicle/])
    post "/jobs/#{number}/repair/dance", fields.merge("form_token" => "0" * 32)
    expect([last_response.status, text]).to match([404, /no step dance/])
    %w[save_scan lift do_sensor gap].each { |step| sign(step) }
    sign("torque", value: "tight")
    expect([last_response.status, text]).to match([422, /Torque set: 'tight'.*40 to 700/])
    sign("torque", value: "115")
    expect(entries(number).last.to_h).to include("step" => "torque", "value" => "115", "by" => WebHelp::PERSON)
  end

  it "marks a step as not needed with a reason, but never one that protects people" do
    submit("/jobs/#{number}/repair", "/jobs/#{number}/repair/save_scan", state: "not_needed", reason: "")
    expect([last_response.status, text]).to match([422, /Enter why the step is not needed/])
    submit("/jobs/#{number}/repair", "/jobs/#{number}/repair/save_scan", state: "not_needed", reason: "printed before")
    expect(last_response.status).to eq(303)
    perform(number, Gadwall::Job::Acts::SkipStep, step: "lift", reason: "in a hurry")
    done = perform(number, Gadwall::Job::Acts::SkipStep, step: "lift", reason: "in a hurry")
    expect(done.errors.values.join).to include("protects people")
    get "/jobs/#{number}/repair"
    expect(text).to include("Not needed: printed before (#{WebHelp::PERSON})")
  end

  it "works through steps, verification and hand-over" do
    fields = guards("/jobs/#{number}/codes", "/person")
    post "/jobs/#{number}/handover", fields.merge("words" => "x", "form_token" => "1" * 32)
    expect([last_response.status, text]).to match([409, /Sign the steps of the repair first/])
    finish_repair
    submit(proof, "#{proof}/repeat", reading: "so so")
    expect([last_response.status, text]).to match([422, /'so so' is not valid/])
    submit(proof, "/jobs/#{number}/handover", words: "")
    expect([last_response.status, text]).to match([422, /Outstanding: Post-scan/])
    verify
    submit(proof, "/jobs/#{number}/handover", words: "")
    follow_redirect!
    expect(text).to include("Proven by measurement").and include("Replace sensor").and include("Please watch")
    expect(text).to include("Wheel bolts: set to 115 N·m, check again after 50 to 100 km.")
    expect(workshop.dossier(number)).to be_handed_over
  end

  it "takes only notes, comebacks and watch results after the hand-over" do
    finish_repair
    verify
    submit(proof, "/jobs/#{number}/handover", words: "")
    acts = Gadwall::Job::Acts
    [
      [acts::TakeReading, { test: "front_left.resistance.sensor_plug", typed: "1k", phase: "after" }],
      [acts::KeepScan, { codes: [], modules: [], phase: "after" }],
      [acts::Withdraw, { entry: 3, reason: "x" }],
      [acts::Reopen, { reason: "x" }],
      [acts::SignStep, { step: "clear", value: "" }],
      [acts::Prove, { item: "rest", result: "pass" }],
      [acts::HandOver, { words: "again" }],
      [acts::Promise, { promised_at: "2026-12-01T00:00:00Z" }]
    ].each do |act, values|
      expect(perform(number, act, **values).errors.values.join).to include("handed over"), act.name
    end
    report = "/jobs/#{number}/report"
    submit(report, "/jobs/#{number}/notes", words: "bolts checked at 80 km")
    submit(report, "/jobs/#{number}/comebacks", words: "lamp again, wet", same: "1")
    submit(report, "/jobs/#{number}/watch-results", result: "came_back", words: "day 3")
    expect(entries(number).last(3).map(&:kind)).to eq(%w[note comeback watch_result])
    get report
    expect(text).to include("bolts checked at 80 km").and include("lamp again, wet (same complaint)").and include(
                  "fault came back: day 3"
                )
    expect(workshop.dossier(number).stage.sentence).to include("Came back: 1 time")
    get "/jobs/closed"
    expect(text).to include(number)
  end

  it "keeps which tool could run which set-up routine" do
    submit("/jobs/#{number}/repair", "/jobs/#{number}/set-up", routine: "", tool: "", result: "worked")
    expect([last_response.status, text]).to match([422, /Enter which routine was run/])
    submit(
      "/jobs/#{number}/repair",
      "/jobs/#{number}/set-up",
      routine: "angle zero",
      tool: "bench tablet",
      result: "failed"
    )
    follow_redirect!
    expect(text).to include("angle zero").and include("bench tablet").and include("failed")
  end
end
