# frozen_string_literal: true

require "web_helper"

# From the first step to the hand-over, and what may still be written then.
RSpec.describe "Repair to hand over", :web do
  include Signing

  let(:number) { new_sensor_authorised }
  let(:proof) { "/jobs/#{number}/proof" }

  def finish_repair
    sign_until(number)
  end

  def verify
    submit(proof, "#{proof}/scan", codes: "", answered: "yes")
    submit(proof, "#{proof}/repeat", reading: "1.06k")
    sign_proof(number)
    drive(number)
  end

  it "opens a step after its hold, and judges the figure that it asks for" do
    fields = guards("/jobs/#{number}/repair", "/jobs/#{number}/repair/scan_first").merge("state" => "done")
    post "/jobs/#{number}/repair/lift", fields
    expect([last_response.status, text]).to match([422, /Sign 'Save pre-scan' first/])
    post "/jobs/#{number}/repair/dance", fields.merge("form_token" => "0" * 32)
    expect([last_response.status, text]).to match([404, /no step dance/])
    sign_until(number, "wheel_torque")
    sign(number, "wheel_torque", figures: { "bolts_maker" => "115", "bolts_set" => "tight" })
    expect([last_response.status, text]).to match([422, /Torque set: 'tight'.*80 to 700/])
    sign(number, "wheel_torque", figures: { "bolts_maker" => "115", "bolts_set" => "125" })
    expect([last_response.status, text]).to match([422, /within 5 %.*say why it differs/])
    expect(page_value("figures[bolts_set]")).to eq("125")
    sign(number, "wheel_torque", figures: { "bolts_maker" => "115", "bolts_set" => "115" })
    kept = { "bolts_maker" => "115", "bolts_set" => "115", "way" => "clean and dry" }
    expect(entries(number).last.to_h).to include("step" => "wheel_torque", "values" => kept, "by" => WebHelp::PERSON)
  end

  def page_value(name)
    Nokogiri.HTML5(last_response.body).at_css("input[name='#{name}']")["value"]
  end

  it "marks a step as not needed with a reason, but never one that protects people" do
    submit("/jobs/#{number}/repair", "/jobs/#{number}/repair/scan_first", state: "not_needed", reason: "")
    expect([last_response.status, text]).to match([422, /Enter why the step is not needed/])
    submit("/jobs/#{number}/repair", "/jobs/#{number}/repair/scan_first", state: "not_needed", reason: "printed before")
    expect(last_response.status).to eq(303)
    sign_until(number, "lift")
    done = perform(number, Gadwall::Job::Acts::SkipStep, step: "lift", reason: "in a hurry")
    expect(done.errors.values.join).to include("protects people")
    get "/jobs/#{number}/repair?step=scan_first"
    expect(text).to include("Not needed: printed before (#{WebHelp::PERSON})")
  end

  it "says on every page of the job and on the day how the vehicle stands, until it is back on the road" do
    get "/jobs/#{number}/trace"
    expect(stands).to include("Wheel off, front left")
    sign_until(number, "renew_sensor-front_left-sensor")
    ["/jobs/#{number}/repair", "/jobs/#{number}/vehicle", "/jobs/#{number}/report"].each do |path|
      get path
      expect([path, stands]).to match([path, a_collection_including("Wheel off, front left", /On the lift/)])
    end
    get "/day"
    expect(text).to match(/#{number} as it stands now: .*wheel off, front left/)
    finish_repair
    get proof
    expect(stands).to eq([])
  end

  def stands
    Nokogiri.HTML5(last_response.body).css(".stands-strip li").map(&:text)
  end

  it "asks what depended on a step again where it was not needed, and takes no signature without it" do
    ring = job(codes: "C0031-62 current")
    read(ring, "front_left.look_ring", "missing")
    read(ring, "front_left.live_speed", "none")
    submit("/jobs/#{ring}/decide", "/jobs/#{ring}/decide", option: "new_ring", signed_by: "A. Reed")
    sign_until(ring, "wheel_off")
    submit("/jobs/#{ring}/repair", "/jobs/#{ring}/repair/wheel_off", state: "not_needed", reason: "it was off")
    fields = guards("/jobs/#{ring}/repair", "/jobs/#{ring}/repair/caliper_hung").merge("state" => "done")
    post "/jobs/#{ring}/repair/caliper_hung", fields
    expect([last_response.status, text]).to match([422, /a tick at 'It is so now: wheel off, front left'/])
    sign(ring, "caliper_hung", ticks: ["It is so now: wheel off, front left"])
    get "/jobs/#{ring}/repair"
    expect(stands.first(2)).to match([/Caliper hung up/, /Wheel off, front left/])
  end

  it "works through steps, verification and hand-over" do
    fields = guards("/jobs/#{number}/codes", "/person")
    post "/jobs/#{number}/handover", fields.merge("words" => "x", "form_token" => "1" * 32)
    expect([last_response.status, text]).to match([409, /Sign the steps of the repair first/])
    finish_repair
    submit(proof, "#{proof}/repeat", reading: "so so")
    expect([last_response.status, text]).to match([422, /'so so' is not valid/])
    submit(proof, "/jobs/#{number}/handover", words: "")
    expect([last_response.status, text]).to match([422, /Not before this is signed: Before it leaves the yard/])
    refused = perform(number, Gadwall::Job::Acts::SignDrive, read: "1")
    expect(refused.errors.values.join).to include("Sign 'Before it leaves the yard' first")
    sign_proof(number)
    submit(proof, "/jobs/#{number}/handover", words: "")
    expect([last_response.status, text]).to match([422, /Outstanding: Post-scan/])
    drive(number, read: "", not_run: ["tone ring, each revolution"])
    expect([last_response.status, text]).to match([422, /status of the monitors was read. No DTC alone is no pass/])
    expect(Nokogiri.HTML5(last_response.body).css("[name='not_run[]'][checked]").size).to eq(1)
    drive(number, not_run: ["tone ring, each revolution"], failed: ["key_on"])
    expect(workshop.dossier(number).proof.open_legs.map(&:id)).to include("key_on", "straight")
    verify
    submit(proof, "/jobs/#{number}/handover", words: "")
    follow_redirect!
    expect(text).to include("Proven by measurement").and include("Replace sensor").and include("Please watch")
    expect(text).to include("Wheel bolts: set to 100 N·m, check again after 50 to 100 km.")
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
      [acts::SignDrive, { read: "1" }],
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
