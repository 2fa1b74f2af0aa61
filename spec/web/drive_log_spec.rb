# frozen_string_literal: true

require "web_helper"

# A proof drive ticked by a log of live data, and its monitors by the status bits of a scan.
RSpec.describe "The log of a drive", :web do
  include Signing

  let(:number) do
    new_sensor_authorised.tap do |n|
      sign_until(n)
      sign_proof(n)
    end
  end

  # Rows of [km/h, deg/s], one a second.
  def log(rows)
    lines = rows.each_with_index.map { |(v, yaw), i| [i, v, v, v, v, yaw.to_f].join(",") }
    header = "Time (s),Wheel speed FL (km/h),Wheel speed FR (km/h),Wheel speed RL (km/h),Wheel speed RR (km/h)"
    "#{header},Yaw rate (deg/s)\n#{lines.join("\n")}\n"
  end

  def hand_in(text, name: "drive.csv")
    file = Rack::Test::UploadedFile.new(StringIO.new(text), "text/csv", original_filename: name)
    submit("/jobs/#{number}/proof", "/jobs/#{number}/proof/log", file: file)
  end

  road =
    ([[0, 0]] * 5) + (1..40).map { |v| [v, 0] } + ([[40, 0]] * 200) + 40.downto(0).map { |v| [v, 0] } + ([[0, 0]] * 5)

  it "ticks the legs that it shows, says what is missing of others, and is kept with the signature" do
    hand_in(log(road))
    expect(last_response.status).to eq(303)
    follow_redirect!
    expect(text).to include("By the log drive.csv")
    expect(text).to match(%r{✓ Straight, steady.* \d+ of 2000 m at \d+ to \d+ km/h})
    expect(text).to include("○ Bends both ways, slower: no bend at 5 to 15 km/h")
    titles = page.css("[data-leg] h2").map(&:text)
    expect(titles).to include("Bends both ways, slower").and(satisfy { |all| all.none?("Straight, steady") })
    drive(number)
    legs = workshop.dossier(number).log.of("drive")
    expect(legs.find { |entry| entry.item == "straight" }.by_log).to include("of 2000 m")
    expect(legs.find { |entry| entry.item == "key_on" }.by_log).to be_nil
  end

  it "ticks nothing where the log itself shows a fault" do
    bad = log(road).lines.each_with_index.map { |line, i| i < 1 ? line : line.sub(/\A([^,]+),[^,]+/, '\1,0') }.join
    hand_in(bad)
    follow_redirect!
    expect(text).to include("wheel reads zero").and(satisfy { |all| !all.include?("✓ Straight") })
    expect(workshop.dossier(number).proof.driven_by_log).to eq({})
  end

  it "refuses what is no log, with its reason, and keeps nothing" do
    ["", "a,b\n1", "PK\x03\x04\xFF\xFE", "Time (s),x\n0,1\n1,1e999\n"].each do |text|
      hand_in(text)
      expect(last_response.status).to eq(422)
    end
    submit("/jobs/#{number}/proof", "/jobs/#{number}/proof/log")
    expect([last_response.status, text]).to match([422, /Choose a file/])
    hand_in("Time (s),x\n#{"0,1\n" * 2_000_000}")
    expect(last_response.status).to be_between(413, 422)
    expect(workshop.dossier(number).log.of("drive_log")).to be_empty
  end

  it "says which monitors ran by the status bits of the scan after it" do
    submit("/jobs/#{number}/proof", "/jobs/#{number}/proof/scan", codes: "C0031-13 50", answered: "yes")
    get "/jobs/#{number}/proof"
    expect(text).to include("C0031-13 did not run, by its status")
    ticked = page.css("[name='not_run[]'][checked]").map { |box| box["value"] }
    expect(ticked).to include("C0031-13")
    submit("/jobs/#{number}/proof", "/jobs/#{number}/proof/scan", codes: "C0031-13 20", answered: "yes")
    get "/jobs/#{number}/proof"
    expect(text).to include("C0031-13 ran, by its status")
  end

  def page
    Nokogiri.HTML5(last_response.body)
  end
end
