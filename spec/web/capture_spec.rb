# frozen_string_literal: true

require "web_helper"
require_relative "../support/web/capture_files"

# One capture looked at closer: its samples for the viewer, the model of low speed, columns set right, and analyses that
# take their time.
RSpec.describe "A capture, closer", :web do
  include CaptureFiles

  let(:number) do
    @number ||= job(park_brake: "caliper_motor", booster: "electric_pump", tyre: "205/55R16", codes: "C0031-64 current")
  end
  let(:base) { "/jobs/#{number}/captures" }

  def hand_in(content, kind: "wheel_speed", circuit: "front_left", name: "turn.csv", **more)
    form = guards(base, base)
    post base,
         form.merge(
           "file" => upload(content, name: name),
           "kind" => kind,
           "circuit" => circuit,
           **more.transform_keys(&:to_s)
         )
    last_response.location.to_s[%r{/jobs/.*}]
  end

  def kept
    workshop.captures.for_job(workshop.jobs.find(number))
  end

  # Current of a park-brake motor that runs in, runs free, and clamps.
  def stroke(amps)
    rows =
      (0..300).map do |i|
        t = i / 100.0
        share =
          case t
          when 0.1...0.25
            3.0
          when 0.25...1.6
            1.0
          when 1.6...2.4
            1.0 + ((t - 1.6) * 4)
          else
            0.0
          end
        "#{t},#{(amps * share).round(4)}"
      end
    "Time (s),I (A)\n#{rows.join("\n")}\n"
  end

  def sheet(address)
    get address
    Nokogiri.HTML5(last_response.body)
  end

  it "hands the viewer every sample, as the file has it" do
    at =
      hand_in(
        "Time (ms),CH1 (V),CH2 (mV)\n#{(0..300).map { |i| "#{i},#{Math.sin(i / 7.0).round(4)},#{i}" }.join("\n")}\n",
        kind: "motor_current"
      )
    get "#{at}/trace"
    head, rest = last_response.body.b.split("\n", 2)
    panels = JSON.parse(head)["panels"]
    expect((head.bytesize + 1) % 8).to eq(0)
    expect(panels.map { |panel| panel.values_at("title", "unit", "samples", "series") }).to eq(
      [["CH1", "V", 301, ["CH1"]], ["CH2", "V", 301, ["CH2"]]]
    )
    expect(panels[0]["even"]).to match([0.0, be_within(1e-12).of(0.001)])
    first = rest.unpack("e301")
    second = rest.byteslice((301 * 4) + 4, 301 * 4).unpack("e301")
    expect([first[100], second[300]]).to match([be_within(6e-5).of(Math.sin(100 / 7.0)), be_within(1e-6).of(0.3)])
  end

  it "marks the moments at which a finding shows, and tells the signal in rows" do
    at = hand_in(wheel(missing: [16]), teeth: "48")
    page = sheet(at)
    marks = JSON.parse(page.at_css("[data-trace]")["data-marks"])
    turn = 1 / 1.5
    expect(marks.map { |mark| mark["kind"] }).to eq(["missing_teeth"])
    expect(marks[0]["at_s"].each_cons(2).map { |a, b| b - a }).to all(be_within(0.002).of(turn))
    expect(page.css("[data-rows='0'] tr").size).to eq(24)
    expect(page.css("caption").map(&:text)).to eq(["CH1, V", "Speed of the wheel, km/h"])
  end

  it "draws the speeds at which a gap is taken for slip, by figures that can be changed" do
    at = hand_in(wheel(missing: [16]), teeth: "48")
    range =
      sheet(at).at_css(".dip .lead").text[/from ([\d.]+) to ([\d.]+)/] &&
        [Regexp.last_match(1).to_f, Regexp.last_match(2).to_f]
    dip = Gadwall::Signals::LowSpeedDip.new(gap: 2.0, teeth: 48, circumference_m: 1.9276)
    expect(range).to eq(dip.slip_range)
    slower = sheet("#{at}?slip_lasts_s=100").at_css(".dip .lead").text[/to ([\d.]+)/, 1].to_f
    expect(slower).to be < range[1]
    get "#{at}/dip?window_s=5&slip_from=40", {}, "HTTP_HX_REQUEST" => "true"
    expect(text).to include("At low speed").and(include("Taken for slip from"))
    get "#{at}/dip?window_s=x", {}, "HTTP_HX_REQUEST" => "true"
    expect(text).to include("'x' is not valid. Enter a number of ms")
    get "#{at}?slip_from=-1"
    expect([last_response.status, text]).to match([422, /Enter a number of % above 0/])
  end

  it "says below which speed a weak sensor is lost, by a controller's figure that can be changed" do
    at = hand_in(csv(*ToneRing.new(48).passive(->(_) { 1.5 }, 3.0, 5000, volt: 0.06)), teeth: "48")
    volts = kept.first.analysis["findings"].first["peak_to_peak_v"]
    [["", 0.1], ["?controller_volt=50", 0.05]].each do |query, from|
      expect(sheet("#{at}#{query}").at_css(".dip strong").text.to_f).to be_within(0.06).of(from / volts * 1.9276 * 3.6)
    end
    expect(sheet("#{at}?controller_volt=none").text).to include("'none' is not valid. Enter a number of mV")
  end

  # WS-04: handbook: wheel-speed sensing, from memory: f = v / 3.6 / C x N.
  it "tells the ring's count from a known speed, and what frequency to expect" do
    at = hand_in(wheel(missing: [16]), teeth: "48")
    speed = 1.5 * 1.9276 * 3.6
    page = sheet("#{at}?speed=#{speed.round(3)}")
    expect(page.at_css(".dip-speed .big-figure").text.to_f).to be_within(0.2).of(48)
    expect(page.at_css(".dip-speed").text).to match(/gives 7[12]\.\d Hz/)
  end

  it "reads a log anew when a column was taken for the wrong thing, and the shop knows it the next time" do
    log =
      "time,Value 1,Value 2,Value 3,Value 4\n#{(0..200).map { |i| [i * 0.1, 20, 20, 20, 0].join(",") }.join("\n")}\n"
    at = hand_in(log, kind: "live_data", circuit: "")
    expect(kept.first.analysis["findings"]).to eq([])
    ids = %w[wheel_front_left wheel_front_right wheel_rear_left wheel_rear_right]
    submit(at, "#{at}/columns", **ids.each_with_index.to_h { |id, i| ["columns[#{i}]", id] })
    expect(last_response.status).to eq(303)
    expect(kept.first.analysis["findings"].map { |row| row.values_at("kind", "wheel") }).to eq(
      [["wheel_reads_zero", "rear right"]]
    )
    expect(
      JSON.parse(workshop.captures.waveform(workshop.jobs.find(number), kept.first.id).to_s.lines.first)["panels"][0][
        "title"
      ]
    ).to eq("Wheel speeds")
    hand_in(log, kind: "live_data", circuit: "")
    expect(kept.first.analysis["findings"].size).to eq(1)
  end

  it "takes no parameter for two columns, and none that is none" do
    at = hand_in("time,Value 1,Value 2\n0,1,2\n1,1,2\n", kind: "live_data", circuit: "")
    submit(at, "#{at}/columns", "columns[0]" => "yaw_rate", "columns[1]" => "yaw_rate")
    expect([last_response.status, text]).to match([422, /each parameter once/])
    submit(at, "#{at}/columns", "columns[0]" => "smell")
    expect([last_response.status, text]).to match([422, /one of the parameters/])
  end

  # HY-05: handbook: flow balance, from memory: 20 s on, 5 s off: 80 percent.
  it "reckons a pump from nothing but a stop-watch, and takes it into the evidence" do
    submit(base, "#{base}/stop-watch", run: "20", rest: "5")
    at = last_response.location[%r{/jobs/.*}]
    expect(sheet(at).css(".figures dd").map(&:text)).to include("0.8", "4.0 mL/s", "20 mL")
    submit(at, "#{at}/evidence")
    expect(entries(number).last.to_h).to include("test" => "accumulator.stop_watch", "result" => "bursts")
    submit(base, "#{base}/stop-watch", run: "soon", rest: "5")
    expect([last_response.status, text]).to match([422, /run: 'soon' is not valid. Enter seconds/])
  end

  it "sets the motor of one side against the other's" do
    hand_in(stroke(4.0), kind: "motor_current", circuit: "park_brake_left")
    at = hand_in(stroke(2.2), kind: "motor_current", circuit: "park_brake_right")
    get at
    expect(text).to include("Left compared with right Left and right differ in free run, clamp").and(
      match(/Free run ?4\.0 A ?2\.2 A ?≠ differ/)
    )
  end

  describe "that takes its time" do
    before { stub_const("Web::AnalysisQueue::SLOW_BYTES", 1000) }

    def record
      workshop.jobs.find(number)
    end

    def underway
      workshop.analyses.for_job(record).first
    end

    def now_of(analysis)
      workshop.analyses.find(record, analysis.id)
    end

    def children
      `pgrep -P #{Process.pid} -f gadwall`.split
    end

    it "goes on in the background, tells how far it is, and leads to what it found" do
      at = hand_in(wheel(missing: [16]), teeth: "48")
      expect(at).to include("#analysis-")
      started = underway
      expect(sheet(base).at_css(".analysis-state")["hx-trigger"]).to include("every")
      wait_for { now_of(started).over? }
      expect([now_of(started).state, now_of(started).progress]).to eq(["done", 1.0])
      expect(kept.first.analysis["findings"].first["teeth"]).to eq([17])
      get "#{base}/analyses/#{started.id}", {}, "HTTP_HX_REQUEST" => "true"
      expect(last_response.headers["hx-redirect"]).to eq("#{base}/#{kept.first.id}")
      expect(workshop.captures.waveform(record, kept.first.id).to_s).to include("Speed of the wheel")
    end

    it "says what is wrong with the file, by line" do
      hand_in("#{wheel}5.0,x\n", teeth: "48")
      started = underway
      wait_for { now_of(started).over? }
      expect([now_of(started).state, kept]).to eq(["failed", []])
      get base
      expect(text).to match(/Could not be read turn\.csv line 15002, column \d+: 'x' is not valid. Expected a number/)
      submit(base, "#{base}/analyses/#{started.id}/cancel")
      get base
      expect(text).not_to include("Could not be read")
    end

    it "answers 404 for one that nobody knows of" do
      %W[#{base}/analyses/0123456789abcdef /jobs/J999/captures/analyses/0123456789abcdef].each do |unknown|
        expect(get(unknown).status).to eq(404)
      end
    end

    it "is cancelled, ends its process, and keeps nothing" do
      hand_in(csv(*ToneRing.new(48).passive(->(_) { 1.5 }, 8.0, 20_000)), teeth: "48")
      started = underway
      wait_for { children.any? }
      submit(base, "#{base}/analyses/#{started.id}/cancel")
      expect([last_response.status, now_of(started).state, underway]).to eq([303, "cancelled", nil])
      wait_for { children.empty? }
      expect(kept).to eq([])
    end
  end
end
