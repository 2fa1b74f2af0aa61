# frozen_string_literal: true

require "web_helper"

# Two browsers, repeated posts and closed doors, beyond the trace screen.
RSpec.describe "Writing to the same job", :web do
  let(:number) do
    job(codes: "C0031-13 current").tap do |n|
      [%w[resistance.sensor_plug OL], %w[bias.sensor_plug 5.0]].each do |test, value|
        read(n, "front_left.#{test}", value)
      end
    end
  end

  def later(page, action)
    fields = guards(page, action)
    desk.entries.append(
      desk.jobs.find(number),
      { "kind" => "note", "words" => "from elsewhere" },
      at: "2026-11-24T10:00:00Z"
    )
    fields
  end

  it "tells the second browser on the codes page, and keeps its text" do
    page = "/jobs/#{number}/codes"
    post page, later(page, page).merge("codes" => "C0037 history", "answered" => "yes")
    expect([last_response.status, text]).to match([409, /Another browser wrote/])
    expect(last_response.body).to include("C0037 history")
    expect(entries(number).count { |entry| entry["kind"] == "scan" }).to eq(1)
  end

  it "tells the second browser on the decide page, and takes the answer on the second try" do
    page = "/jobs/#{number}/decide"
    post page, later(page, page).merge("option" => "new_sensor", "signed_by" => "A. Reed", "words" => "go on")
    expect(last_response.status).to eq(409)
    document = Nokogiri.HTML5(last_response.body)
    expect(document.at_css("[name=words]")["value"]).to eq("go on")
    submit(page, page, option: "new_sensor", signed_by: "A. Reed")
    expect(entries(number).count { |entry| entry["kind"] == "decision" }).to eq(1)
  end

  it "chooses once: a second decision is refused" do
    page = "/jobs/#{number}/decide"
    fields = guards(page, page)
    submit(page, page, option: "new_sensor", signed_by: "A. Reed")
    post page, fields.merge("option" => "hub_with_sensor", "signed_by" => "B", "form_token" => "other", "seen" => "")
    expect([last_response.status, text]).to match([422, /chosen already/])
  end

  it "observables a step once when the form comes twice" do
    submit("/jobs/#{number}/decide", "/jobs/#{number}/decide", option: "new_sensor", signed_by: "A. Reed")
    fields = guards("/jobs/#{number}/repair", "/jobs/#{number}/repair/save_scan").merge("state" => "done")
    2.times { post "/jobs/#{number}/repair/save_scan", fields }
    expect(entries(number).count { |entry| entry["kind"] == "step" }).to eq(1)
  end

  it "opens no proof before the repair is signed, nor after hand-over" do
    fields = guards("/jobs/#{number}/codes", "/jobs/#{number}/codes")
    post "/jobs/#{number}/handover", fields.merge("words" => "x")
    expect([last_response.status, text]).to match([422, /repair steps are all signed/])
  end

  it "reads its own case file back: the same log, the same answer" do
    get "/jobs/#{number}/case.json"
    kase = Gadwall::CaseFile.parse(last_response.body, models: WebHelp::SHARED)
    expect(kase.log.entries.map { |entry| entry["kind"] }).to eq(entries(number).map { |entry| entry["kind"] })
    expect(kase.assess[:verdict][:fault]).to eq("front_left.sensor.open")
    expect(last_response.headers["Content-Disposition"]).to include("#{number}.json")
  end
end
