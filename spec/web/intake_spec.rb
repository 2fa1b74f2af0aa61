# frozen_string_literal: true

require "web_helper"

RSpec.describe "Check-in", :web do
  let(:plain) { { name: "van", customer: "A", complaint: "lamp", front: "passive", rear: "passive" } }

  it "names every field that is wrong, and keeps what was typed" do
    submit(
      "/jobs/new",
      "/jobs",
      name: "",
      customer: "A. Reed",
      complaint: "",
      vin: "IOQ",
      layout: "five",
      promised: "x"
    )
    expect(last_response.status).to eq(422)
    expect(text).to include("Enter what you call the vehicle").and include("Enter what the customer says")
    expect(text).to include("without I, O and Q").and include("Enter a day and a time")
    expect(Nokogiri.HTML5(last_response.body).at_css("[name=customer]")["value"]).to eq("A. Reed")
    expect(workshop.jobs.all).to be_empty
  end

  it "takes tyre and ring, and says what frequency to expect (WS-04)" do
    submit("/jobs/new", "/jobs", **plain, tyre: "wide ones", teeth: "48")
    expect([last_response.status, text]).to match([422, %r{tyre: 'wide ones'.*205/55R16}])
    submit("/jobs/new", "/jobs", **plain, tyre: "205/55R16", teeth: "many")
    expect([last_response.status, text]).to match([422, /teeth: 'many'.*12 to 200/])
    number = job(tyre: "205/55R16", teeth: "48", codes: "C0031-62 current")
    get "/jobs/#{number}/trace?test=front_left.scope.sensor_plug"
    expect(text).to include("Expect 69 Hz at 10 km/h, and 48 Hz at one revolution per second.")
    other = job(tyre: "205/55R16", teeth: "96", codes: "C0031-62 current") # wired alike, another ring
    get "/jobs/#{other}/trace?test=front_left.scope.sensor_plug"
    expect(text).to include("and 96 Hz at one revolution per second.")
  end

  it "tells of a check digit that does not fit, and takes the vehicle all the same" do
    number = job(vin: "1M8GDM9AXKP047288")
    get "/jobs/#{number}/codes"
    expect(text).to include("check digit").and include("4 would")
  end

  it "keeps who checked in, complaint, symptoms and what keeps the vehicle off the road in one act" do
    number = job("triage[]": "red_lamp", "symptoms[]": "at_key_on", promised: "2026-11-30T16:00")
    expect(entries(number).map { |entry| [entry.kind, entry.by] }).to eq(
      [%w[symptoms promise], [WebHelp::PERSON] * 2].transpose
    )
    expect(entries(number).first.data).to include(
      "ids" => ["at_key_on"],
      "triage" => ["red_lamp"],
      "words" => "lamp on"
    )
    get "/jobs/#{number}/codes"
    expect(text).to include("Red brake warning lamp on: do not drive until the fault is found.")
  end
end
