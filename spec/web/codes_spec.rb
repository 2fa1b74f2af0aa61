# frozen_string_literal: true

require "web_helper"

RSpec.describe "Pre-scan", :web do
  def read_codes(number)
    workshop.dossier(number).log.body.scans.flat_map(&:codes).map { |code| [code.circuit_id, code.claim] }
  end

  def correct(number, **fields)
    submit("/jobs/#{number}/codes", "/jobs/#{number}/codes/correct", scan: "2", index: "0", **fields)
  end

  it "names the line that cannot be a code, and keeps the text" do
    number = job
    submit("/jobs/#{number}/codes", "/jobs/#{number}/codes", codes: "C0031-13 current\n-- ? --", answered: "")
    expect(last_response.status).to eq(422)
    expect(text).to include("line 2: '-- ? --' is not valid").and include("Say whether the ABS module responded")
    expect(last_response.body).to include("-- ? --")
    expect(entries(number).size).to eq(1)
  end

  it "takes a code that the library does not know, says what is missing, and remembers what it was told" do
    number = job(codes: "C1A7F current horn relay")
    get "/jobs/#{number}/codes"
    expect(text).to include("not placed yet: which circuit is it?")
    correct(number, circuit: "return_pump", claim: "stuck_on")
    expect(last_response.status).to eq(303)
    expect(read_codes(number)).to eq([%w[return_pump stuck_on]])
    expect(entries(number).last(2).map(&:kind)).to eq(%w[scan withdraw])
    other = job(codes: "C1A7F history horn relay")
    expect(read_codes(other)).to eq([%w[return_pump stuck_on]])
    correct(other, circuit: "horn", claim: "stuck_on")
    expect([last_response.status, text]).to match([422, /'horn' is not valid/])
    correct(other, index: "9", circuit: "valves", claim: "open")
    expect(last_response.status).to eq(422)
  end

  it "notes which other modules did not respond" do
    number = job
    fields = { codes: "U0155-87 current", answered: "yes", "silent[]": "cluster" }
    submit("/jobs/#{number}/codes", "/jobs/#{number}/codes", **fields)
    answered = workshop.dossier(number).log.body.scans.first.answered
    expect(answered).to include("abs" => true, "cluster" => false, "gateway" => true)
  end

  it "counts flashes that were tapped, and says when there is nothing to count" do
    number = job
    tapped = [0, 500, 1000, 4000, 4500, 5000].map { |on| [on, on + 200] }
    page = "/jobs/#{number}/codes"
    post "#{page}/flash", guards(page, page).merge("times" => JSON.generate(tapped))
    expect(text).to include("3 seen 2 times")
    post "#{page}/flash", guards(page, page).merge("times" => "nonsense")
    expect([last_response.status, text]).to match([200, /No flashes yet/])
  end

  it "asks for a reason when there is no scan" do
    number = job
    submit("/jobs/#{number}/codes", "/jobs/#{number}/codes/skip", reason: " ")
    expect([last_response.status, text]).to match([422, /Enter why no scan is made/])
    submit("/jobs/#{number}/codes", "/jobs/#{number}/codes/skip", reason: "scan tool away")
    expect(entries(number).last.to_h).to include("kind" => "scan_skipped", "reason" => "scan tool away")
  end

  it "counts a code once, however often the tool prints its line: eighty lines poison no job" do
    many = job(codes: (["C0031-13 current"] * 80).join("\n"))
    once = job(codes: "C0031-13 current")
    places = [many, once].map { |number| workshop.dossier(number).assessment.posterior.places }
    expect(places.first).to eq(places.last)
    %W[/ /jobs/#{many} /jobs/#{many}/trace].each { |path| expect(get(path).status).to be < 400 }
  end
end
