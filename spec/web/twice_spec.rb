# frozen_string_literal: true

require "web_helper"
require_relative "../support/web/capture_files"

# Every form, sent twice: in a row, and at once. Written once, and the second click lands where the first did.
RSpec.describe "A form sent twice", :web do
  include CaptureFiles

  # A second browser with the same session: rack-test's sessions are not made for threads.
  def send_at_once(action, fields, times: 2)
    cookie = rack_mock_session.cookie_jar.for(URI("http://localhost/"))
    request = Rack::MockRequest.new(app)
    fields = fields.transform_values { |value| value.is_a?(Rack::Test::UploadedFile) ? multipart(value) : value }
    gate = Queue.new
    threads =
      Array.new(times) do
        Thread.new do
          gate.pop
          request.post(action, :params => fields, "HTTP_HOST" => "localhost", "HTTP_COOKIE" => cookie)
        end
      end
    times.times { gate << :go }
    threads.map(&:value).map { |answer| [answer.status, answer.headers["location"]] }
  end

  def multipart(file)
    Rack::Multipart::UploadedFile.new(file.path, "text/csv")
  end

  # The circuit's form as the page fills it in, with one length changed.
  def circuit_fields(page)
    get page
    form = Nokogiri.HTML5(last_response.body).at_css("form.circuit-form")
    inputs = form.css("input[name], select[name]").reject { |input| input["type"] == "checkbox" && !input["checked"] }
    inputs
      .to_h { |input| [input["name"], input["value"]] }
      .merge("sections[0][length_m]" => "2.4")
      .transform_keys(&:to_sym)
  end

  # On disk, so that it can be sent several times.
  def ring_file
    file = Tempfile.new(%w[capture .csv])
    file.write(wheel(missing: [16]))
    file.close
    Rack::Test::UploadedFile.new(file.path, "text/csv", original_filename: "turn.csv")
  end

  def total
    [workshop.jobs.all.size, workshop.jobs.all.sum { |job| entries(job.number).size }]
  end

  # Sends a form in a row or at once, and says what was written by it and where it led.
  def twice(page, action, at_once:, **given)
    sign_in unless @signed_in
    @signed_in = true
    fields = guards(page, action).merge(given.transform_keys(&:to_s))
    before = total
    landings =
      if at_once
        send_at_once(action, fields)
      else
        Array.new(2) { post(action, fields) && [last_response.status, last_response.headers["location"]] }
      end
    [total.zip(before).map { |after, earlier| after - earlier }, landings]
  end

  def expect_once((written, landings), entries:, jobs: 0)
    expect(landings.map(&:first)).to eq([303, 303])
    expect(landings.map(&:last).uniq.size).to eq(1)
    expect(written).to eq([jobs, entries])
  end

  CHECK_IN = WebHelp::CHECK_IN

  # A job with a fault found, as far as its decision.
  def found
    number = job(codes: "C0031-13 current")
    read(number, "front_left.resistance.sensor_plug", "OL")
    read(number, "front_left.bias.sensor_plug", "5.0")
    number
  end

  # Posts, with what the form is filled in with: [form's page, address, fields, entries that it makes].
  REPAIR = [
    *{
      "scan_first" => {
      },
      "match_part" => {
        "number.old" => "W-1",
        "number.new" => "W-1"
      },
      "chock" => {
      },
      "lift" => {
      },
      "wheel_off" => {
      },
      "renew_sensor-front_left-sensor" => {
        "screw_maker" => "9",
        "screw_set" => "9"
      },
      "hub_gap" => {
        "gap" => "0.8"
      },
      "wheel_signal" => {
        "widest" => "1.02"
      },
      "wheel_on" => {
      },
      "lower" => {
      },
      "wheel_torque" => {
        "bolts_maker" => "115",
        "bolts_set" => "115"
      },
      "lamps" => {
      },
      "chocks_out" => {
      },
      "clear" => {
      }
    }.map { |step, figures| ["repair", "repair/#{step}", { state: "done", figures: figures }, 1] },
    ["proof", "proof/scan", { codes: "", answered: "yes" }, 1],
    ["proof", "proof/repeat", { reading: "1.06k" }, 1],
    ["proof", "repair/yard", { state: "done", ticks: %w[pedal lights park_brake lamp] }, 1],
    ["proof", "repair/wheels_again", { state: "done" }, 1],
    ["proof", "proof/drive", { failed: ["key_on"], read: "1" }, 8],
    ["proof", "handover", { words: "key on only, the road later" }, 1],
    ["report", "notes", { words: "bolts checked at 80 km" }, 1],
    ["report", "comebacks", { words: "lamp again, wet", same: "1" }, 1],
    ["report", "watch-results", { result: "came_back", words: "day 3" }, 1]
  ].freeze

  it "lands where the first did although that was written between two looks of the second" do
    number = job(codes: "C0031-13 current")
    base = "/jobs/#{number}"
    fields = guards("#{base}/report", "#{base}/notes").merge("words" => "seen")
    looks = 0
    [[workshop.loader, :dossier], [workshop.instance_variable_get(:@acts), :landing]].each do |looked_at, name|
      allow(looked_at).to receive(name).and_wrap_original do |look, *given|
        looks += 1
        look.call(*given).tap { post "#{base}/notes", fields if looks == 1 }
      end
    end
    post "#{base}/notes", fields
    expect([last_response.status, last_response.location]).to match([303, /#{number}/])
    expect(entries(number).count { |entry| entry.kind == "note" }).to eq(1)
  end

  [false, true].each do |at_once|
    context(at_once ? "at once" : "in a row") do
      define_method(:send_twice) { |page, action, **given| twice(page, action, at_once: at_once, **given) }

      it "checks one vehicle in" do
        sign_in
        @signed_in = true
        expect_once(send_twice("/jobs/new", "/jobs", **CHECK_IN), jobs: 1, entries: 1)
      end

      it "keeps one pre-scan, one missing scan, one flash code" do
        number = job
        base = "/jobs/#{number}"
        expect_once(send_twice("#{base}/codes", "#{base}/codes", codes: "C0031-13", answered: "yes"), entries: 1)
        other = job
        base = "/jobs/#{other}"
        expect_once(send_twice("#{base}/codes", "#{base}/codes/skip", reason: "no scan tool"), entries: 1)
      end

      it "keeps one reading, one withdrawal, one note, and the circumstances with the complaint" do
        number = job(codes: "C0031-13 current")
        base = "/jobs/#{number}"
        test = "front_left.resistance.sensor_plug"
        reading = { test: test, reading: "1.1k" }
        expect_once(send_twice("#{base}/trace?test=#{test}", "#{base}/readings", **reading), entries: 1)
        entry = entries(number).last.seq
        expect_once(send_twice("#{base}/trace", "#{base}/withdrawals", entry: entry, reason: "wrong pin"), entries: 1)
        complaint = entries(number).first.to_h["words"]
        said = { "symptoms[]": "wet", shop_cases: "1" }
        expect_once(send_twice("#{base}/trace", "#{base}/circumstances", **said), entries: 2)
        expect(workshop.dossier(number).log.of("symptoms").first.to_h["words"]).to eq(complaint)
      end

      it "keeps one sheet, one circuit, one promise" do
        number = job(codes: "C0031-13 current")
        base = "/jobs/#{number}"
        expect_once(send_twice("#{base}/vehicle", "#{base}/vehicle", **CHECK_IN, name: "Other van"), entries: 1)
        action = "#{base}/vehicle/circuits/front_left"
        expect_once(
          send_twice(
            "#{base}/vehicle?circuit=front_left",
            action,
            **circuit_fields("#{base}/vehicle?circuit=front_left")
          ),
          entries: 1
        )
        expect_once(send_twice("#{base}/report", "#{base}/promise", promised: "2026-12-01T10:00"), entries: 1)
      end

      it "signs one decision, opens it again once" do
        number = found
        base = "/jobs/#{number}"
        signed = { option: "new_sensor", signed_by: "A. Reed", words: "yes" }
        _, landings = send_twice("#{base}/decide", "#{base}/decide", **signed)
        expect([landings.map(&:first), landings.map(&:last).uniq.size]).to eq([[303, 303], 1])
        expect(entries(number).map(&:kind).tally.slice("decision", "plan")).to eq("decision" => 1, "plan" => 1)
        expect_once(send_twice("#{base}/decide", "#{base}/reopen", reason: "a second fault seen"), entries: 1)
      end

      it "signs each step, each item of the road test, the hand-over and what comes after it once" do
        number = found
        base = "/jobs/#{number}"
        submit("#{base}/decide", "#{base}/decide", option: "new_sensor", signed_by: "A. Reed")
        expect_once(
          send_twice("#{base}/repair", "#{base}/set-up", routine: "bleed", tool: "A", result: "worked", note: ""),
          entries: 1
        )
        REPAIR.each do |page, action, fields, made|
          expect_once(send_twice("#{base}/#{page}", "#{base}/#{action}", **fields), entries: made)
        end
      end

      it "keeps one capture, one stop-watch, and what they say once" do
        number = job(codes: "C0031-64 current")
        base = "/jobs/#{number}/captures"
        send_twice(base, base, file: ring_file, kind: "wheel_speed", circuit: "front_left", teeth: "48")
        kept = workshop.captures.for_job(workshop.jobs.find(number))
        expect(kept.size).to eq(1)
        page = "#{base}/#{kept.first.id}"
        expect_once(send_twice(page, "#{page}/evidence"), entries: 1)
      end
    end
  end
end
