# frozen_string_literal: true

require "web_helper"
require "open3"

# What follows the verdict beside the steps themselves: the customer's own answer, the workshop's prices, parameters,
# set-up runs, watches and comebacks, and what leaves the workshop as files.
RSpec.describe "After the verdict", :web do
  include Signing

  let(:number) { open_sensor }

  def decide(option, of = number)
    submit("/jobs/#{of}/decide", "/jobs/#{of}/decide", option: option, signed_by: "A. Reed")
  end

  it "turns round to the customer, and keeps the text that he saw with his answer" do
    get "/jobs/#{number}/customer"
    expect(text).to include("A new wheel sensor is fitted.").and include("What it risks")
    submit("/jobs/#{number}/customer", "/jobs/#{number}/customer", option: "new_sensor", signed_by: "")
    expect([last_response.status, text]).to match([422, /Enter who authorised it/])
    submit(
      "/jobs/#{number}/customer",
      "/jobs/#{number}/customer",
      option: "new_sensor",
      signed_by: "A. Reed",
      words: "Do it"
    )
    expect(last_response.location).to end_with("/repair")
    decision = workshop.dossier(number).log.decisions.last
    expect(decision.shown).to match(/sensor coil open.*A new wheel sensor is fitted\. \d+ €.*Risk:/m)
    get "/jobs/#{number}/decide"
    expect(text).to include("What the customer saw").and include("A new wheel sensor is fitted.")
  end

  it "takes the workshop's own prices for new decisions, and leaves what was signed as it was" do
    other = number
    submit("/settings", "/settings", rate: "cheap", currency: "cr", edits: {})
    expect([last_response.status, text]).to match([422, /'cheap' is not valid/])
    edits = { "new_sensor" => { "price" => "400", "hours" => "2" } }
    decide("new_sensor", other)
    before = workshop.dossier(other).decisions.first.choice.cost
    submit("/settings", "/settings", rate: "90", currency: "cr", edits: edits)
    follow_redirect!
    expect(text).to include("Saved.").and include("own figure")
    second = job(codes: "C0031-13 current")
    [%w[resistance.sensor_plug OL], %w[bias.sensor_plug 5.0]].each do |test, value|
      read(second, "front_left.#{test}", value)
    end
    sensor = workshop.dossier(second).options.choice("new_sensor")
    expect([sensor.repair_hours, sensor.cost]).to eq([2, (400 + (sensor.hours * 90)).round])
    expect(workshop.dossier(other).decisions.first.choice.cost).to eq(before)
    get "/jobs/#{second}/decide"
    expect(text).to include("#{sensor.cost} cr").and include("Brings along: match the part")
    fresh = Web::Workshop.new(workshop.instance_variable_get(:@database), models: WebHelp::SHARED)
    expect([fresh.shop.rate, fresh.shop.currency]).to eq([90, "cr"])
  end

  it "keeps parameter sets in versions and compares them line by line" do
    decide("new_sensor")
    page = "/jobs/#{number}/parameters"
    submit(page, page, source: "old_module", text: "teeth")
    expect([last_response.status, text]).to match([422, /line 1.*name = value/])
    submit(page, page, source: "old_module", text: "teeth = 48\ntyre = 1990 mm")
    submit(page, page, source: "plate", text: "name;value\nteeth;48\ntyre;2010 mm\n")
    submit(page, page, source: "old_module", text: "teeth = 48\ntyre = 1995 mm")
    get page
    expect(text).to include("1 of 2 lines differ").and include("≠ differs").and include("1995 mm")
    expect(entries(number).map(&:kind).count("parameters")).to eq(3)
    second = job(codes: "C0031-13 current")
    get "/jobs/#{second}/parameters"
    expect(text).to include("No parameters kept")
  end

  it "records the run of a set-up routine with its tool, a refusal with its text, and shows them the next time" do
    two = job(codes: "C0037-13 current", name: "Learning van", park_brake: "caliper_motor")
    decide_rear(two)
    sign_until(two, "learn_park_brake")
    fields = {
      step: "learn_park_brake",
      routine: "Calibrate park brake",
      tool: "yard tablet",
      result: "failed",
      code: "zz"
    }
    page = "/jobs/#{two}/repair?step=learn_park_brake"
    submit(page, "/jobs/#{two}/set-up", **fields)
    expect([last_response.status, text]).to match([422, /no negative response/])
    submit(page, "/jobs/#{two}/set-up", **fields, code: "22")
    follow_redirect!
    expect(text).to include("22 conditions not correct")
    sign(two, "learn_park_brake", tool: "", before: "", after: "")
    expect([last_response.status, text]).to match([422, /Enter which tool ran it/])
    sign(two, "learn_park_brake", before: "no position", after: "16 A")
    run = workshop.dossier(two).log.of("set_up").last
    expect([run.step, run.result, run.after]).to eq(["learn_park_brake", "worked", "16 A"])
    three = job(codes: "C0037-13 current", name: "Learning van", park_brake: "caliper_motor")
    decide_rear(three)
    get "/jobs/#{three}/repair"
    expect(text).to include("yard tablet").and include("0 of 1 worked").and include("refused 22 conditions not correct")
  end

  def decide_rear(of)
    [%w[resistance.sensor_plug OL], %w[bias.sensor_plug 5.0]].each do |test, value|
      read(of, "rear_left.#{test}", value)
    end
    decide("hub_with_sensor", of)
  end

  it "watches what left for its days, reminds on the bay, and ends with a result" do
    decide("watch")
    sign_until(number)
    sign_proof(number)
    submit("/jobs/#{number}/proof", "/jobs/#{number}/handover", words: "left as it is")
    get "/"
    expect(text).to include("On watch").and match(/day 1 of \d+/)
    watch = Gadwall::Job::Watch.of(workshop.dossier(number))
    expect(watch.words(watch.due)).to include("over: enter its result")
    submit("/jobs/#{number}/report", "/jobs/#{number}/watch-results", result: "stayed_away", words: "")
    get "/"
    expect(text).not_to include("On watch")
  end

  it "opens a comeback as a job of its own that names the first, and no longer counts its cause" do
    decide("new_sensor")
    sign_until(number)
    sign_proof(number)
    submit("/jobs/#{number}/proof", "/jobs/#{number}/handover", words: "the road later")
    cases = workshop.instance_variable_get(:@database)[:closed_cases]
    expect(cases.where(revoked_at: nil).count).to eq(1)
    submit("/jobs/#{number}/report", "/jobs/#{number}/comebacks", words: "lamp again in the rain", same: "1")
    expect(cases.where(revoked_at: nil).count).to eq(0)
    submit("/jobs/#{number}/report", "/jobs/#{number}/comeback-job")
    follow_redirect!
    expect(text).to include("Came back: see job #{number}").and include("lamp again in the rain")
  end

  it "prints the report as a PDF that says what the screen says, the drawings as vectors" do
    decide("new_sensor")
    sign_until(number)
    get "/jobs/#{number}/report.pdf"
    expect(last_response.headers["content-type"]).to eq("application/pdf")
    words, = Open3.capture2("pdftotext", "-layout", "-", "-", stdin_data: last_response.body, binmode: true)
    words = words.force_encoding("UTF-8").gsub(/\s+/, " ")
    expect(words).to include("What was wrong, and what was done").and include("sensor coil open")
    expect(words).to include("Manufacturer's torque").and include("80 to 700 N·m").and include("Proof").and include(
                        "body connector"
                      )
    expect(words).to include("page 1 of")
    first = last_response.body
    get "/jobs/#{number}/report.pdf"
    expect(last_response.body).to eq(first)
  end

  it "writes readings and DTCs as CSV, with no cell that a spreadsheet would run" do
    spiteful = job(codes: "C0031-13 current\n=cmd|' /C calc'!A0 rear left sensor")
    read(spiteful, "front_left.resistance.sensor_plug", "1.1k")
    get "/jobs/#{spiteful}/evidence.csv"
    rows = CSV.parse(last_response.body, headers: true)
    expect(rows.first.to_h).to include("result" => "1.1 kohm", "phase" => "before")
    get "/jobs/#{spiteful}/codes.csv"
    cells = CSV.parse(last_response.body).flatten.compact
    expect(cells.grep(/\A[=+@]/)).to eq([])
    expect(Gadwall::Cells.escape("=1+1")).to eq("'=1+1")
    expect([Gadwall::Cells.escape("-12.5"), Gadwall::Cells.escape(-3), Gadwall::Cells.escape("-x")]).to eq(
      ["-12.5", -3, "'-x"]
    )
  end

  it "gives the case file out and takes it in without loss, plan and signatures included" do
    decide("new_sensor")
    sign_until(number, "wheel_torque")
    get "/jobs/#{number}/case.json"
    kase = Gadwall::CaseFile.parse(last_response.body, models: CoreHelp::MODELS)
    expect(kase.log.entries.map(&:to_h)).to eq(workshop.dossier(number).log.entries.map(&:to_h))
    plan = Gadwall::CLI::PlanFile.new(kase).decided
    expect(plan[:steps].map { |step| step[:id] }).to eq(
      workshop.dossier(number).log.plan.steps.map { |step| step["id"] }
    )
    expect(kase.log.steps.last.by).to eq(WebHelp::PERSON)
  end
end
