# frozen_string_literal: true

require "web_helper"
require_relative "../support/web/capture_files"

# Captures of a job: taken in, analysed, drawn, kept and taken into the evidence.
RSpec.describe "Captures", :web do
  include CaptureFiles

  let(:number) { @number || job(codes: "C0031-64 current") }
  let(:page) { "/jobs/#{number}/captures" }

  def live(rear_right:)
    rows = (0..200).map { |i| [i * 0.1, 20, 20, 20, i.between?(60, 150) ? rear_right : 20].join(",") }
    "time,wheel_front_left,wheel_front_right,wheel_rear_left,wheel_rear_right\n#{rows.join("\n")}\n"
  end

  def hand_in(content, kind: "wheel_speed", circuit: "front_left", **more)
    form = guards(page, page)
    post page,
         form.merge("file" => upload(content), "kind" => kind, "circuit" => circuit, **more.transform_keys(&:to_s))
    form
  end

  # The capture handed in last, on its own page.
  def look_closer
    get "#{page}/#{kept.first.id}"
    Nokogiri.HTML5(last_response.body)
  end

  def kept
    workshop.captures.for_job(workshop.jobs.find(number))
  end

  def take_in
    look_closer
    action = Nokogiri.HTML5(last_response.body).css("form").map { |form| form["action"] }.grep(/evidence\z/).first or
      return nil
    submit(last_request.path, action)
  end

  # Share of the suspicion that lies on the front left ring.
  def ring_suspected
    workshop
      .dossier(number)
      .assessment
      .suspects
      .select { |each| each.text.match?(/front left.*(ring|teeth|tooth)/) }
      .sum(&:probability)
  end

  it "draws the ring with the bad tooth numbered, and says how sure it is" do
    hand_in(wheel(missing: [16]), teeth: "48")
    expect(last_response.status).to eq(303)
    sheet = look_closer
    expect(sheet.css(".ring-figure .ring-tooth").size).to eq(47)
    expect(sheet.css(".ring-figure .ring-missing").size).to eq(1)
    number_drawn = sheet.at_css(".ring-number").text
    expect(text).to match(/Tooth #{number_drawn} missing on the ring, .* \d+ %/)
  end

  it "calls a steady signal at the mains' frequency doubtful, and takes it for no evidence" do
    hand_in(
      "Time (s),CH1 (V)\n#{
        (0..8000).map { |i| "#{i / 4000.0},#{(0.5 * Math.sin(2 * Math::PI * i / 80.0)).round(4)}" }.join("\n")
      }\n",
      teeth: "24"
    )
    sheet = look_closer
    expect(sheet.at_css("h1").text).to start_with("Doubtful")
    expect(text).to include("Steady at 50 Hz")
    expect(text).not_to include("Nothing that is not as it should be")
    expect(take_in).to be_nil
  end

  it "takes the brake switch of a log, seen to let go under the foot, into the evidence" do
    rows =
      (0..400).map do |i|
        [i * 0.1, i.between?(200, 260) && !i.between?(220, 224) ? "On" : "Off", i.between?(200, 260) ? 30 : 0].join(",")
      end
    hand_in("time,brake_sw,brake_pressure_bar\n#{rows.join("\n")}\n", kind: "live_data")
    take_in
    expect(
      entries(number).select { |entry| entry.kind == "finding" }.to_h { |entry| entry.to_h.values_at("test", "result") }
    ).to eq("brake_switch.live_held" => "dropouts", "brake_switch.live_released" => "good")
  end

  it "takes what was found into the evidence, once, and the ring rises among the suspects" do
    hand_in(wheel(missing: [16]), teeth: "48")
    before = entries(number).size
    at_first = ring_suspected
    take_in
    expect(last_response.status).to eq(303)
    expect(entries(number).last.to_h).to include("kind" => "finding", "result" => "one_gap")
    expect(entries(number).size).to eq(before + 1)
    expect(take_in).to be_nil
    expect(ring_suspected).to be > at_first
  end

  it "keeps a repeated post once" do
    form = hand_in(wheel, teeth: "48")
    post page,
         form.merge(
           "kind" => "wheel_speed",
           "file" => Rack::Test::UploadedFile.new(StringIO.new(wheel), "text/csv", original_filename: "turn.csv"),
           "teeth" => "48"
         )
    expect(kept.size).to eq(1)
  end

  it "hears a wheel that stays at nothing in live data, and clears the others" do
    hand_in(live(rear_right: 0), kind: "live_data", circuit: "")
    take_in
    results =
      entries(number)
        .map(&:to_h)
        .select { |entry| entry["test"].to_s.include?("live_speed") }
        .to_h { |entry| [entry["test"], entry["result"]] }
    expect(results.keys.size).to eq(4)
    expect(results.find { |test, _| test.start_with?("rear_right") }.last).to match(/none|dropouts/)
    expect(results.reject { |test, _| test.start_with?("rear_right") }.values.uniq).to eq(["even"])
  end

  it "refuses what is no capture by line, and keeps nothing" do
    ["time_s,volt\n0,1\nx,2\n", "", "\xFF\xFE\x00", "time_s,volt\n"].each do |content|
      hand_in(content, teeth: "48")
      expect([last_response.status, kept]).to eq([422, []])
    end
    expect(text).to include("line 1, column 1: empty. Expected a header")
  end

  it "refuses a post without a file, a kind that is none, and a count that no ring has" do
    submit(page, page, kind: "wheel_speed")
    expect([last_response.status, text]).to match([422, /file: empty\. Expected a capture or a log/])
    hand_in(wheel, kind: "smell")
    expect([last_response.status, text]).to match([422, /one of wheel_speed/])
    hand_in(wheel, teeth: "3")
    expect([last_response.status, text]).to match([422, /12 to 200/])
  end

  # What demo/captures/README.md says of each.
  {
    "missing_tooth_coil" => %w[missing_teeth passive],
    "low_tooth_coil" => %w[damaged_tooth passive],
    "wobbling_ring_coil" => %w[runout passive],
    "sprung_ring_active" => %w[wide_gap active],
    "chafed_lead_active" => %w[dropouts active]
  }.each do |name, (kind, sensor)|
    it "hears #{kind} in the demo capture #{name}" do
      found =
        Gadwall::Signals::CaptureFile.of(
          File.join(Demo::Workshop::CAPTURES, "#{name}.csv"),
          "wheel_speed",
          teeth: 48,
          sensor: sensor
        )
      expect(found[:findings].first[:kind]).to eq(kind)
    end
  end

  {
    "park_motor_open" => %w[motor_current park_brake_left live_clamp none],
    "accumulator_pump_often" => %w[pump_pressure accumulator stop_watch bursts]
  }.each do |name, (kind, circuit, test, result)|
    it "takes #{name} for '#{result}' at #{circuit}" do
      @number = job(park_brake: "caliper_motor", booster: "electric_pump", codes: "C0031-64 current")
      hand_in(File.read(File.join(Demo::Workshop::CAPTURES, "#{name}.csv")), kind: kind, circuit: circuit)
      take_in
      expect(entries(number).last.to_h).to include("test" => "#{circuit}.#{test}", "result" => result)
    end
  end

  it "hangs captures of five kinds of fault on the demo" do
    Demo::Workshop.load(workshop)
    kinds =
      workshop
        .jobs
        .all
        .flat_map { |each| workshop.captures.for_job(each) }
        .map { |kept| kept.analysis["findings"].first["kind"] }
    expect(kinds).to contain_exactly("wide_gap", "dropouts", "wheel_drops_out", "open_circuit", "leaks_down")
  end

  it "knows no capture of another job" do
    hand_in(wheel, teeth: "48")
    id = kept.first.id
    other = job(codes: "C0031-64 current")
    post "/jobs/#{other}/captures/#{id}/evidence", guards("/jobs/#{other}/captures", "/jobs/#{other}/captures")
    expect(last_response.status).to eq(404)
    ["", "/trace", "/dip", "9"].each { |tail| expect(get("/jobs/#{other}/captures/#{id}#{tail}").status).to eq(404) }
  end

  it "names only tests and outcomes that circuits have" do
    system = workshop.dossier(job(park_brake: "caliper_motor", booster: "electric_pump", stability: "yes")).log.system
    outcomes =
      system.circuits.flat_map { |circuit| circuit.model.tests.values.flat_map { |test| test.outcomes.to_h.keys } }.uniq
    Gadwall::Knowledge.catalogue.findings.each_value { |row| expect(row["outcomes"] - outcomes).to be_empty }
  end
end
