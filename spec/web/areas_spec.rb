# frozen_string_literal: true

require "web_helper"

RSpec.describe Web::App, :web do
  it "shows an empty bay, and a page for what is not there" do
    get "/"
    expect(text).to include("0 in the house")
    get "/jobs/J999"
    expect([last_response.status, text]).to match([404, /no job J999/])
    get "/nowhere"
    expect(last_response.status).to eq(404)
  end

  it "sends a strict policy and no inline script" do
    number = job(codes: "C0031-13 current")
    [
      "/",
      "/jobs/new",
      *%w[codes trace decide repair proof report].map { |page| "/jobs/#{number}/#{page}" }
    ].each do |page|
      get page
      expect(last_response.status).to eq(200), page
      expect(last_response.headers["Content-Security-Policy"]).to include("script-src 'self'").and include(
              "default-src 'none'"
            )
      document = Nokogiri.HTML5(last_response.body)
      expect(document.css("script").map { |script| script["src"] }).to all(start_with("/"))
      expect(document.xpath("//@*[starts-with(name(), 'on')] | //@style")).to be_empty, page
    end
  end

  it "turns away a form without its token" do
    post "/jobs", { name: "x" }
    expect(last_response.status).to eq(403)
    expect(desk.jobs.all).to be_empty
  end

  it "turns away 50 MB before anything reads it" do
    post "/jobs", "x" * 50_000_000
    expect([last_response.status, last_response.body]).to match([413, /too much.*Nothing was written/m])
  end

  describe "intake" do
    it "names every field that is wrong, and keeps what was typed" do
      submit(
        "/jobs/new",
        "/jobs",
        name: "",
        customer: "A. Reed",
        complaint: "",
        vin: "IOQ",
        layout: "five",
        front: "passive",
        rear: "active"
      )
      expect(last_response.status).to eq(422)
      expect(text).to match(/Empty. Enter what you call the vehicle/).and match(
              /Empty. Enter what the customer says/
            ).and include("without I, O and Q")
      expect(Nokogiri.HTML5(last_response.body).at_css("[name=customer]")["value"]).to eq("A. Reed")
      expect(desk.jobs.all).to be_empty
    end

    it "makes one job of a form sent twice" do
      fields =
        guards("/jobs/new", "/jobs").merge(
          "name" => "van",
          "customer" => "A",
          "complaint" => "lamp",
          "front" => "active",
          "rear" => "active"
        )
      2.times { post "/jobs", fields }
      expect(desk.jobs.all.size).to eq(1)
      expect(entries("J101").size).to eq(1)
    end

    it "takes tyre and ring, and says what frequency to expect (WS-04)" do
      submit(
        "/jobs/new",
        "/jobs",
        name: "van",
        customer: "A",
        complaint: "lamp",
        tyre: "wide ones",
        teeth: "48",
        front: "passive",
        rear: "passive"
      )
      expect([last_response.status, text]).to match([422, %r{tyre: 'wide ones'.*205/55R16}])
      submit(
        "/jobs/new",
        "/jobs",
        name: "van",
        customer: "A",
        complaint: "lamp",
        tyre: "205/55R16",
        teeth: "many",
        front: "passive",
        rear: "passive"
      )
      expect([last_response.status, text]).to match([422, /teeth: 'many'.*12 to 200/])
      number = job(tyre: "205/55R16", teeth: "48", codes: "C0031-62 current")
      get "/jobs/#{number}/trace?test=front_left.scope.sensor_plug"
      expect(text).to include("Expect 69 Hz at 10 km/h, and 48 Hz at one turn a second.")
      other = job(tyre: "205/55R16", teeth: "96", codes: "C0031-62 current") # wired alike, the ring disconnected
      get "/jobs/#{other}/trace?test=front_left.scope.sensor_plug"
      expect(text).to include("and 96 Hz at one turn a second.")
    end

    it "tells of a check digit that does not fit, and takes the vehicle all the same" do
      number = job(vin: "1M8GDM9AXKP047288")
      get "/jobs/#{number}/codes"
      expect(text).to include("check digit").and include("4 would")
    end
  end

  describe "codes" do
    it "names the line that cannot be a code, and keeps the text" do
      number = job
      submit("/jobs/#{number}/codes", "/jobs/#{number}/codes", codes: "C0031-13 current\nnothing here", answered: "")
      expect(last_response.status).to eq(422)
      expect(text).to include("line 2: 'nothing here' cannot be used").and include(
              "Say whether the anti-lock module answered"
            )
      expect(last_response.body).to include("nothing here")
      expect(entries(number).size).to eq(1)
    end

    it "takes a code that the catalogue does not know, says what is missing, and remembers what it was told" do
      number = job(codes: "C1A7F current horn relay")
      get "/jobs/#{number}/codes"
      expect(text).to include("circuit not known: say it below")
      submit(
        "/jobs/#{number}/codes",
        "/jobs/#{number}/codes/correct",
        scan: "2",
        index: "0",
        circuit: "return_pump",
        claim: "stuck_on"
      )
      expect(last_response.status).to eq(303)
      expect(desk.file(number).log.body.scans.flat_map(&:codes).map { |code| [code.circuit_id, code.claim] }).to eq(
        [%w[return_pump stuck_on]]
      )
      other = job(codes: "C1A7F history horn relay")
      expect(
        desk.file(other).log.body.scans.first.codes.map { |code| [code.circuit_id, code.claim, code.status] }
      ).to eq([%w[return_pump stuck_on history]])
      submit(
        "/jobs/#{other}/codes",
        "/jobs/#{other}/codes/correct",
        scan: "2",
        index: "0",
        circuit: "horn",
        claim: "stuck_on"
      )
      expect([last_response.status, text]).to match([422, /'horn' cannot be used/])
      submit(
        "/jobs/#{other}/codes",
        "/jobs/#{other}/codes/correct",
        scan: "2",
        index: "9",
        circuit: "valves",
        claim: "open"
      )
      expect(last_response.status).to eq(422)
    end

    it "notes who else stayed silent" do
      number = job
      submit(
        "/jobs/#{number}/codes",
        "/jobs/#{number}/codes",
        codes: "U0155-87 current",
        answered: "yes",
        "silent[]": "cluster"
      )
      expect(desk.file(number).log.body.scans.first.answered).to include(
        "abs" => true,
        "cluster" => false,
        "gateway" => true
      )
    end

    it "counts flashes that were tapped, and says when there is nothing to count" do
      number = job
      tapped = [0, 500, 1000, 4000, 4500, 5000].map { |on| [on, on + 200] }
      submit("/jobs/#{number}/codes", "/jobs/#{number}/codes", codes: "", answered: "")
      post "/jobs/#{number}/codes/flash",
           guards("/jobs/#{number}/codes", "/jobs/#{number}/codes").merge("times" => JSON.generate(tapped))
      expect(text).to include("3 came 2 times")
      post "/jobs/#{number}/codes/flash",
           guards("/jobs/#{number}/codes", "/jobs/#{number}/codes").merge("times" => "nonsense")
      expect([last_response.status, text]).to match([200, /No flashes yet/])
    end

    it "asks for a reason when there is no scan" do
      number = job
      submit("/jobs/#{number}/codes", "/jobs/#{number}/codes/skip", reason: " ")
      expect([last_response.status, text]).to match([422, /Say why no scan is made/])
      submit("/jobs/#{number}/codes", "/jobs/#{number}/codes/skip", reason: "scan tool away")
      expect(entries(number).last).to include("kind" => "scan_skipped", "reason" => "scan tool away")
    end
  end

  describe "trace" do
    let(:number) { job(codes: "C0031-13 current") }

    it "shows the same suspects as the command line" do
      read(number, "front_left.resistance.body_connector", "OL")
      get "/jobs/#{number}/case.json"
      answer = Gadwall::CaseFile.parse(last_response.body, models: WebHelp::SHARED).assess
      get "/jobs/#{number}/trace"
      document = Nokogiri.HTML5(last_response.body)
      shown =
        document
          .css(".suspect[data-place]")
          .map { |row| [row["data-place"], row.at_css("meter")["value"].to_f.round(3)] }
      expect(shown).to eq(answer[:places].first(shown.size).map { |row| [row[:place], row[:probability].round(3)] })
      within = document.css(".suspect[data-place] [data-fault]").map { |row| row["data-fault"] }
      expect(answer[:suspects].first(2).map { |row| row[:fault] } - within).to be_empty
    end

    it "echoes a reading as understood, and what it changed" do
      read(number, "front_left.resistance.body_connector", "1,1k")
      follow_redirect!
      expect(text).to match(/1\.1 kohm (up|down):/)
    end

    ["", "lots", "12V", "-3", "1.2.3"].each do |bad|
      it "keeps #{bad.inspect} at the field with what would do, and writes nothing" do
        read(number, "front_left.resistance.body_connector", bad)
        expect(last_response.status).to eq(422)
        document = Nokogiri.HTML5(last_response.body)
        expect(document.at_css("#error-reading").text).to include("expected")
        expect(document.at_css("#reading")["value"].to_s).to eq(bad)
        expect(document.at_css("input[name=test]")["value"]).to eq("front_left.resistance.body_connector")
        expect(entries(number).size).to eq(2)
      end
    end

    it "answers a test that the vehicle does not have" do
      fields = guards("/jobs/#{number}/trace", "/jobs/#{number}/readings")
      post "/jobs/#{number}/readings", fields.merge("test" => "front_left.horoscope", "reading" => "1")
      expect([last_response.status, text]).to match([422, /front_left.horoscope.*such as/])
      get "/jobs/#{number}/trace?test=nonsense"
      expect(last_response.status).to eq(422)
      get "/jobs/#{number}/trace?circuit=nonsense"
      expect(last_response.status).to eq(422)
    end

    it "queries a reading that fits no suspect, and takes it all the same" do
      [
        %w[front_left.look_ring cracked],
        %w[front_left.live_speed one_gap],
        %w[front_left.insulation.module_plug 37]
      ].each { |test, value| read(number, test, value) }
      follow_redirect!
      expect(text).to include("This reading fits no suspect well. Measure again")
      expect(entries(number).size).to eq(5)
    end

    it "shows the second of two browsers what the first wrote, keeps its entry, and takes it on the second try" do
      page = "/jobs/#{number}/trace?test=front_left.resistance.body_connector"
      one = guards(page, "/jobs/#{number}/readings")
      two = guards(page, "/jobs/#{number}/readings")
      post "/jobs/#{number}/readings", one.merge("reading" => "OL")
      post "/jobs/#{number}/readings", two.merge("reading" => "1.2k")
      expect([last_response.status, text]).to match([409, /Another browser wrote to this job/])
      document = Nokogiri.HTML5(last_response.body)
      expect(document.at_css("#reading")["value"]).to eq("1.2k")
      post(
        "/jobs/#{number}/readings",
        document.css("form.reading input").to_h { |input| [input["name"], input["value"]] }
      )
      expect(entries(number).map { |entry| entry["reading"] }.compact).to eq(%w[OL 1.2k])
    end

    it "writes a form sent twice once" do
      fields =
        guards("/jobs/#{number}/trace?test=front_left.resistance.body_connector", "/jobs/#{number}/readings").merge(
          "reading" => "OL"
        )
      2.times { post "/jobs/#{number}/readings", fields }
      expect(last_response.status).to eq(303)
      expect(entries(number).count { |entry| entry["kind"] == "reading" }).to eq(1)
    end

    it "withdraws with a reason, and never without" do
      read(number, "front_left.resistance.body_connector", "OL")
      page = "/jobs/#{number}/trace"
      submit(page, "/jobs/#{number}/withdrawals", entry: "3", reason: "")
      expect([last_response.status, text]).to match([422, /Say what was wrong with it/])
      submit(page, "/jobs/#{number}/withdrawals", entry: "3", reason: "wrong pin")
      follow_redirect!
      expect(text).to include("withdrawn: wrong pin")
      expect(entries(number).map { |entry| entry["kind"] }).to eq(%w[symptoms scan reading withdraw])
      submit(page, "/jobs/#{number}/withdrawals", entry: "77", reason: "x")
      expect(last_response.status).to eq(422)
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

  describe "decide to hand-over" do
    let(:number) do
      job(codes: "C0031-13 current").tap do |n|
        [%w[resistance.sensor_plug OL], %w[bias.sensor_plug 5.0]].each do |test, value|
          read(n, "front_left.#{test}", value)
        end
      end
    end

    def decide(**fields)
      submit("/jobs/#{number}/decide", "/jobs/#{number}/decide", **fields)
    end

    it "wants an option and a name under it" do
      decide(option: "pray", signed_by: "A")
      expect([last_response.status, text]).to match([422, /Choose one of the options/])
      decide(option: "new_sensor", signed_by: "", words: "go on")
      expect([last_response.status, text]).to match([422, /customer's name/])
      expect(Nokogiri.HTML5(last_response.body).at_css("[name=words]")["value"]).to eq("go on")
    end

    it "refuses to leave a vehicle with a red lamp as it is" do
      red = job(codes: "C0031-13 current", "triage[]": "red_lamp")
      submit("/jobs/#{red}/decide", "/jobs/#{red}/decide", option: "watch", signed_by: "A")
      expect([last_response.status, text]).to match([422, /Refused: with red brake lamp on/])
    end

    it "refuses to condemn while the verdict is open" do
      open = job(codes: "C0031-31 current")
      option = desk.file(open).standing.options.choices.first.id
      submit("/jobs/#{open}/decide", "/jobs/#{open}/decide", option: option, signed_by: "A")
      expect([last_response.status, text]).to match([422, /verdict is still open/])
    end

    it "refuses to condemn a module before its supply is proven under load" do
      early = job(codes: "C0031-31 current")
      {
        "resistance.module_plug" => "1.1k",
        "ac_volts.module_plug" => "0.26",
        "scope.module_plug" => "even",
        "simulate_at_module" => "none"
      }.each { |test, value| read(early, "front_left.#{test}", value) }
      submit("/jobs/#{early}/decide", "/jobs/#{early}/decide", option: "new_module", signed_by: "A. Reed")
      expect([last_response.status, text]).to match(
        [422, /Refused: no module before its feeds.*Missing: feed and ground of the module proven under load/]
      )
      read(early, "abs_module.loaded_supply", "12.3")
      submit("/jobs/#{early}/decide", "/jobs/#{early}/decide", option: "new_module", signed_by: "A. Reed")
      expect(last_response.status).to eq(303)
    end

    it "works through steps, proof and hand-over, and closes the search" do
      decide(option: "new_sensor", signed_by: "A. Reed")
      expect(last_response.status).to eq(303)
      read(number, "front_left.resistance.sensor_plug", "1k")
      expect([last_response.status, text]).to match([409, /search is closed/])
      post "/jobs/#{number}/repair/do_sensor",
           guards("/jobs/#{number}/repair", "/jobs/#{number}/repair/save_scan").merge("state" => "done")
      expect([last_response.status, text]).to match([422, /steps before it signed/])
      %w[save_scan lift do_sensor gap].each do |step|
        submit("/jobs/#{number}/repair", "/jobs/#{number}/repair/#{step}", state: "done")
      end
      submit("/jobs/#{number}/repair", "/jobs/#{number}/repair/torque", state: "done", value: "tight")
      expect([last_response.status, text]).to match([422, /Torque used: 'tight'.*40 to 700/])
      submit("/jobs/#{number}/repair", "/jobs/#{number}/repair/torque", state: "done", value: "115")
      submit("/jobs/#{number}/repair", "/jobs/#{number}/repair/clear", state: "done")
      proof = "/jobs/#{number}/proof"
      submit(proof, "#{proof}/scan", codes: "", answered: "yes")
      submit(proof, "#{proof}/repeat", reading: "so so")
      expect([last_response.status, text]).to match([422, /'so so' cannot be used/])
      submit(proof, "#{proof}/repeat", reading: "1.06k")
      submit(proof, "/jobs/#{number}/handover", words: "")
      expect([last_response.status, text]).to match([422, /Open: Standing, key on/])
      5.times do
        item = guards(proof, "#{proof}/drive")
        post "#{proof}/drive", item.merge("result" => "good")
      end
      submit(proof, "/jobs/#{number}/handover", words: "")
      follow_redirect!
      expect(text).to include("Proven by measurement").and include("New sensor").and include("Please watch")
      expect(desk.file(number).standing).to be_handed_over
    end

    it "knows no step of that name" do
      decide(option: "new_sensor", signed_by: "A. Reed")
      post "/jobs/#{number}/repair/dance",
           guards("/jobs/#{number}/repair", "/jobs/#{number}/repair/save_scan").merge("state" => "done")
      expect([last_response.status, text]).to match([422, /step: 'dance'/])
    end
  end

  it "escapes what people type" do
    number = job(name: "<script>alert(1)</script>", complaint: "<b>loud</b>", codes: "C0031-13 current <i>text</i>")
    %w[codes trace decide report].each do |page|
      get "/jobs/#{number}/#{page}"
      expect(last_response.body).not_to include("<script>alert")
      expect(last_response.body).not_to include("<b>loud")
    end
  end

  it "shows the demo workshop: one job finished, several with one test left, two unrelated faults and one common " \
       "cause" do
    Demo::Workshop.load(desk.instance_variable_get(:@database))
    files = desk.all_files
    expect(files.size).to eq(12)
    expect(files.count { |file| file.standing.handed_over? }).to eq(1)
    expect(files.map { |file| file.standing.stage }.uniq).to contain_exactly(
      "codes",
      "trace",
      "decide",
      "repair",
      "proof",
      "report"
    )
    close = files.select { |file| file.standing.stage == "trace" && one_test_left?(file) }
    expect(close.size).to be >= 2
    expect(desk.file("J109").standing.assessment.verdict.conclusions.map(&:state)).to eq(%w[proven proven])
    expect(desk.file("J110").standing.assessment.verdict.suspect.id).to eq("shared.module_plug_of_abs.wet")
  end

  # The recommended test, with the result most expected, proves it.
  def one_test_left?(file)
    assessment = file.standing.assessment
    option = assessment.next_tests.first
    option
      .outcomes
      .first(2)
      .any? do |outcome|
        result = option.test.numeric? ? in_region(option, outcome.index) : option.test.outcomes.keys[outcome.index]
        entry = {
          "kind" => option.test.numeric? ? "reading" : "finding",
          "test" => option.id,
          "reading" => result,
          "result" => result
        }
        Gadwall::Diagnosis
          .assess(assessment.system, Gadwall::Evidence::Log.new(file.log.entries + [entry], assessment.system).body)
          .verdict
          .proven?
      end
  end

  def in_region(option, index)
    table = option.circuit.model.table(option.test)
    %w[OL 0 0.05 0.2 0.5 1 5 12 100 1k 5k 50k 500k 5M 7m 14m].find do |text|
      table.outcome_index(Gadwall::Quantity::ReadingText.parse(text, unit: option.test.unit)) == index
    rescue StandardError
      false
    end
  end
end
