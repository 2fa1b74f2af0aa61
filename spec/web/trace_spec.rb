# frozen_string_literal: true

require "web_helper"

RSpec.describe "Trace", :web do
  let(:number) { job(codes: "C0031-13 current") }

  it "shows the same suspects as the command line" do
    read(number, "front_left.resistance.body_connector", "OL")
    get "/jobs/#{number}/case.json"
    answer = Gadwall::CaseFile.parse(last_response.body, models: WebHelp::SHARED).assess
    get "/jobs/#{number}/trace"
    document = Nokogiri.HTML5(last_response.body)
    rows = document.css(".suspect[data-place]")
    shown = rows.map { |row| [row["data-place"], row.at_css("meter")["value"].to_f] }
    told = answer[:places].first(shown.size)
    expect(shown.map(&:first)).to eq(told.map { |row| row[:place] })
    shown.zip(told) { |(_, value), row| expect(value).to be_within(6e-4).of(row[:probability]) }
    within = document.css(".suspect[data-place] [data-fault]").map { |row| row["data-fault"] }
    expect(answer[:suspects].first(2).map { |row| row[:fault] } - within).to be_empty
  end

  it "echoes a reading as understood, in the meter's own unit, and what it changed" do
    read(number, "front_left.resistance.body_connector", "1,1k")
    follow_redirect!
    expect(text).to match(/1\.1 kΩ (up|down): .* percentage points/)
    get "/jobs/#{number}/trace"
    expect(text).to match(/1\.1 kΩ (up|down):/) # also later, on another browser
  end

  it "passes the parser once and the posterior once from the reading to the page" do
    get "/jobs/#{number}/trace"
    fields = guards("/jobs/#{number}/trace?test=front_left.resistance.body_connector", "/jobs/#{number}/readings")
    sign_in
    allow(Gadwall::Quantity::ReadingText).to receive(:parse).and_call_original
    allow(Gadwall::Diagnosis::Posterior).to receive(:new).and_call_original
    header "HX-Request", "true"
    post "/jobs/#{number}/readings", fields.merge("reading" => "OL")
    expect([last_response.status, text]).to match([200, /OL up:/])
    expect(Gadwall::Quantity::ReadingText).to have_received(:parse).once
    expect(Gadwall::Diagnosis::Posterior).to have_received(:new).once
  end

  ["", "lots", "12V", "-3", "1.2.3", "9" * 400].each do |bad|
    it "keeps #{bad[0, 10].inspect} at the field with what would do, and writes nothing" do
      read(number, "front_left.resistance.body_connector", bad)
      expect(last_response.status).to eq(422)
      document = Nokogiri.HTML5(last_response.body)
      expect(document.at_css("#error-reading").text).to include("Enter a ")
      expect(document.at_css("#reading")["value"].to_s).to eq(bad)
      expect(document.at_css("input[name=test]")["value"]).to eq("front_left.resistance.body_connector")
      expect(entries(number).size).to eq(2)
    end
  end

  it "answers a test that the vehicle does not have" do
    sign_in
    fields = guards("/jobs/#{number}/trace", "/jobs/#{number}/readings")
    post "/jobs/#{number}/readings", fields.merge("test" => "front_left.horoscope", "reading" => "1")
    expect([last_response.status, text]).to match([422, /front_left.horoscope.*such as/])
    get "/jobs/#{number}/trace?test=nonsense"
    expect(last_response.status).to eq(422)
    get "/jobs/#{number}/trace?circuit=nonsense"
    expect(last_response.status).to eq(422)
  end

  it "answers nine thousand letters as the name of a test at once" do
    sign_in
    fields = guards("/jobs/#{number}/trace", "/jobs/#{number}/readings")
    started = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    post "/jobs/#{number}/readings", fields.merge("test" => "x" * 9000, "reading" => "1")
    expect(last_response.status).to eq(422)
    expect(Process.clock_gettime(Process::CLOCK_MONOTONIC) - started).to be < 1.0
  end

  it "queries a reading that fits no suspect, and takes it all the same" do
    rows = [%w[look_ring cracked], %w[live_speed one_gap], %w[insulation.module_plug 37]]
    rows.each { |test, value| read(number, "front_left.#{test}", value) }
    follow_redirect!
    expect(text).to include("Does not fit any suspect. Repeat the test.")
    expect(entries(number).size).to eq(5)
  end

  it "shows the second of two browsers what the first wrote, keeps its entry, and takes it on the second try" do
    sign_in
    page = "/jobs/#{number}/trace?test=front_left.resistance.body_connector"
    one, two = Array.new(2) { guards(page, "/jobs/#{number}/readings") }
    post "/jobs/#{number}/readings", one.merge("reading" => "OL")
    post "/jobs/#{number}/readings", two.merge("reading" => "1.2k")
    expect([last_response.status, text]).to match([409, /Another browser saved to this job/])
    document = Nokogiri.HTML5(last_response.body)
    expect(document.at_css("#reading")["value"]).to eq("1.2k")
    again = document.css("form.reading input").to_h { |input| [input["name"], input["value"]] }
    post "/jobs/#{number}/readings", again
    expect(entries(number).filter_map { |entry| entry["reading"] }).to eq(%w[OL 1.2k])
  end

  it "withdraws with a reason, and never without" do
    read(number, "front_left.resistance.body_connector", "OL")
    page = "/jobs/#{number}/trace"
    submit(page, "/jobs/#{number}/withdrawals", entry: "3", reason: "")
    expect([last_response.status, text]).to match([422, /Enter what was wrong with it/])
    submit(page, "/jobs/#{number}/withdrawals", entry: "3", reason: "wrong pin")
    follow_redirect!
    expect(text).to include("withdrawn: wrong pin")
    expect(entries(number).map(&:kind)).to eq(%w[symptoms scan reading withdraw])
    submit(page, "/jobs/#{number}/withdrawals", entry: "77", reason: "x")
    expect(last_response.status).to eq(422)
  end

  it "says the circumstances again in one act, and keeps complaint and what is unsafe" do
    red = job(codes: "C0031-13 current", "triage[]": "red_lamp")
    fields = { "symptoms[]": "wet", shop_cases: "1" }
    submit("/jobs/#{red}/trace", "/jobs/#{red}/circumstances", **fields)
    expect(last_response.status).to eq(303)
    log = workshop.dossier(red).log
    expect(log.of("symptoms").map { |entry| [entry.ids, entry.words, entry.triage] }).to eq(
      [[["wet"], "lamp on", ["red_lamp"]]]
    )
    expect(log.entries.last(2).map(&:at).uniq.size).to eq(1)
  end

  it "shows high voltage and stored pressure wherever the way leads past them" do
    hybrid = job(power: "hybrid", booster: "electric_pump", codes: "C0031-13 current")
    get "/jobs/#{hybrid}/trace?circuit=accumulator_pump"
    expect(text).to include("orange cables").and include("the accumulator holds")
    get "/jobs/#{hybrid}/trace?circuit=front_left"
    expect(text).not_to include("orange cables")
  end

  it "gives htmx the part, and a browser without it the page" do
    header "HX-Request", "true"
    get "/jobs/#{number}/trace"
    expect(last_response.body).to start_with("<div id=\"trace\"")
    header "HX-Request", nil
    get "/jobs/#{number}/trace"
    expect(last_response.body).to start_with("<!DOCTYPE html>")
  end
end
