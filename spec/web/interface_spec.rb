# frozen_string_literal: true

require "web_helper"
require_relative "../../demo/workshop"

# The diagnostic interface on a workshop's own job: what is read becomes evidence, and stays read.
RSpec.describe "Diagnostic interface", :web do
  before { workshop.mark_demo(by: "spec") }

  def connect(number, seed: "9")
    submit("/jobs/#{number}/codes", "/jobs/#{number}/interface", seed: seed)
    follow_redirect!
  end

  # The same form of a page that was loaded again.
  def again(form)
    form.merge("form_token" => SecureRandom.hex(16))
  end

  def scans(number)
    workshop.dossier(number).log.of("scan")
  end

  it "reads every module into the pre-scan, told as read by the interface" do
    number = job
    connect(number)
    submit("/jobs/#{number}/codes", "/jobs/#{number}/interface/read")
    expect(last_response.headers["location"]).to end_with("/jobs/#{number}/codes")
    scan = scans(number).last
    expect([scan.by_interface?, scan.responded, scan.codes.any?]).to eq([true, scan.expected, true])
    get "/jobs/#{number}/codes"
    expect(text).to include("read by the interface")
  end

  it "tells how far it is, module by module, and keeps what was read when the connection is lost" do
    number = job
    connect(number)
    form = guards("/jobs/#{number}/codes", "/jobs/#{number}/interface/read")
    2.times { post "/jobs/#{number}/interface/read", form, { "HTTP_HX_REQUEST" => "true" } }
    expect(text).to match(/1 of \d+ modules read/) # one form, sent twice
    post "/jobs/#{number}/interface/read", again(form), { "HTTP_HX_REQUEST" => "true" }
    expect(text).to match(/2 of \d+ modules read/)
    @app.workshop.instance_variable_set(:@stands, Web::Stands.new(Store::StandStore.new(database)))
    get "/jobs/#{number}/codes"
    expect(text).to match(/2 of \d+ modules read/).and include("Go on reading")
    expect(scans(number)).to be_empty
    submit("/jobs/#{number}/codes", "/jobs/#{number}/interface/read")
    expect(scans(number).size).to eq(1)
  end

  it "shows live values beside the test that asks for them, and takes the reading with one touch" do
    number = job
    connect(number)
    submit("/jobs/#{number}/codes", "/jobs/#{number}/interface/read")
    page = "/jobs/#{number}/trace?test=front_left.live_speed"
    get page
    expect(text).to include("Wheel speed front left").and include("Take it from the interface")
    submit(page, "/jobs/#{number}/bench/test", test: "front_left.live_speed")
    expect(workshop.dossier(number).log.body.observations.last.test.id).to eq("live_speed")
  end

  it "clears, drives an output and runs a routine of the set-up stage, with the module's own answer" do
    Demo::Workshop.load(workshop, only: %w[15])
    number = workshop.summaries.open.first.number
    sign_in
    record = workshop.dossier(number).record
    exercise = Gadwall::Training::Drawn.for_sheet(record.vehicle, 2, id: number)
    workshop.stands.connect(record, exercise, by: "N. Ashgrove", at: workshop.now)
    stand = -> { workshop.stands.of(record) }
    get "/jobs/#{number}/repair"
    form =
      hidden(
        Nokogiri.HTML5(last_response.body).css("form").find { |each| each["action"].end_with?("/interface/routine") }
      )
    workshop.stands.act(record, { "kind" => "key", "to" => "on" }, by: "x", at: workshop.now)
    post "/jobs/#{number}/interface/routine", form.merge("id" => "park_brake_service")
    runs = workshop.dossier(number).log.of("set_up")
    expect([runs.last.tool, runs.last.result]).to eq(["diagnostic interface", "worked"])
    post "/jobs/#{number}/interface/routine", again(form).merge("id" => "park_brake_calibrate")
    expect(workshop.dossier(number).log.of("set_up").last.result).to eq("failed").or eq("worked")
    post "/jobs/#{number}/interface/actuate", again(form).merge("circuit" => "park_brake_left")
    expect(stand.call.said_of("actuate")).to match(/driven for a moment|Refused/)
    post "/jobs/#{number}/interface/clear", again(form)
    expect(stand.call.said_of("clear")).to include("modules cleared")
  end

  it "says SIMULATED on page, scan, report, PDF, case file and tables, for every entry that is" do
    number = job
    connect(number)
    submit("/jobs/#{number}/codes", "/jobs/#{number}/interface/read")
    read(number, "front_left.live_speed", "even")
    page = "/jobs/#{number}/trace?test=front_left.live_speed"
    submit(page, "/jobs/#{number}/bench/test", test: "front_left.live_speed")
    %w[codes trace report].each do |page|
      get "/jobs/#{number}/#{page}"
      expect([page, text]).to match([page, include("SIMULATED")])
    end
    get "/jobs/#{number}/case.json"
    kase = JSON.parse(last_response.body)
    expect(kase["job"]["simulated"]).to be(true)
    origins =
      kase["evidence"].select { |entry| %w[scan finding].include?(entry["kind"]) }.map { |entry| entry["origin"] }
    expect(origins).to eq(["simulated", nil, "simulated"])
    get "/jobs/#{number}/evidence.csv"
    expect(CSV.parse(last_response.body, headers: true).map { |row| row["origin"] }).to eq(%w[hand simulated])
    get "/jobs/#{number}/report.pdf"
    expect(Gadwall::CaseFile.parse(JSON.generate(kase)).log).to be_simulated
  end

  it "refuses a simulated vehicle in a customer's job, and in one that is closed" do
    number = job
    form = guards("/jobs/#{number}/codes", "/jobs/#{number}/interface")
    workshop.instance_variable_get(:@database)[:settings].where(key: "demo").delete
    post "/jobs/#{number}/interface", form.merge("seed" => "9")
    expect([last_response.status, text]).to match([422, /Made-up codes have no place in a customer's job/])
    get "/jobs/#{number}/codes"
    expect(text).not_to match(/simulated/i)
    post "/jobs/#{number}/interface/read", form
    expect([last_response.status, scans(number)]).to eq([404, []])
    workshop.mark_demo(by: "spec")
    workshop.perform(number, Gadwall::Job::Acts::SkipScan, { reason: "none" }, by: "x") { "/" }
    allow(workshop).to receive(:dossier).and_wrap_original do |find, given|
      find.call(given).tap { |dossier| allow(dossier).to receive(:handed_over?).and_return(true) }
    end
    post "/jobs/#{number}/interface", form.merge("seed" => "9", "form_token" => "n")
    expect([last_response.status, text]).to match([422, /is closed/])
  end

  it "keeps exercises in a record of their own" do
    sign_in
    submit("/practice", "/practice", exercise: "dead-coil")
    number = last_response.headers["location"][/P\d+/]
    expect(number).to match(/\AP\d+\z/)
    expect { workshop.dossier(number) }.to raise_error(Store::NotFound)
    get "/"
    expect(text).not_to include(number)
    submit("/practice", "/practice", level: "2", seed: "many", exercise: "")
    expect(last_response.status).to eq(422)
    expect(text).to include("a whole number from 1 on")
  end

  def database
    workshop.instance_variable_get(:@database)
  end
end
