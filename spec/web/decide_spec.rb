# frozen_string_literal: true

require "web_helper"

RSpec.describe "Decide", :web do
  let(:number) { proven_sensor }

  def proven_sensor(**more)
    job(codes: "C0031-13 current", **more).tap do |n|
      [%w[resistance.sensor_plug OL], %w[bias.sensor_plug 5.0]].each do |test, value|
        read(n, "front_left.#{test}", value)
      end
    end
  end

  def decide(number, **fields)
    submit("/jobs/#{number}/decide", "/jobs/#{number}/decide", **fields)
  end

  # What was signed, to the letter: the decision, its plan, and what the pages show of them.
  def signed(number)
    dossier = workshop.dossier(number)
    kinds = dossier.log.entries.select { |entry| %w[decision plan step].include?(entry.kind) }.map(&:to_h)
    shown =
      %w[decide repair report].map do |page|
        get "/jobs/#{number}/#{page}"
        Nokogiri
          .HTML5(last_response.body)
          .css(".option-name, .option .mono, .step h2, .step-body p, .report-verdict")
          .map(&:text)
      end
    [kinds, shown, dossier.stage.id, dossier.stage.sentence]
  end

  it "wants an option and a name under it" do
    decide(number, option: "pray", signed_by: "A")
    expect([last_response.status, text]).to match([422, /Choose one of the options/])
    decide(number, option: "new_sensor", signed_by: "", words: "go on")
    expect([last_response.status, text]).to match([422, /Enter who authorised it/])
    expect(Nokogiri.HTML5(last_response.body).at_css("[name=words]")["value"]).to eq("go on")
  end

  it "says what the expected cost is made of, and how long the plan of each option is" do
    get "/jobs/#{number}/decide"
    options = workshop.dossier(number).options.choices
    expect(options.map { |each| each.expected - each.cost - each.if_wrong - each.if_again }).to all(be_between(-1, 1))
    sensor = options.find { |each| each.id == "new_sensor" }
    expect([sensor.steps > 15, sensor.hours > sensor.repair_hours]).to eq([true, true])
    beyond = (sensor.hours - sensor.repair_hours).round(1)
    expect(text).to match(/#{sensor.repair_hours} h for the repair itself, #{beyond} h beyond it/)
    expected = /Expected: #{sensor.cost} € now, \+ \d+ € if it is not it, \+ \d+ € if it does not last/
    expect(text).to match(expected)
  end

  it "refuses to leave a vehicle with a red lamp as it is" do
    red = job(codes: "C0031-13 current", "triage[]": "red_lamp")
    decide(red, option: "watch", signed_by: "A")
    expect([last_response.status, text]).to match([422, /Refused: The vehicle must not be driven as it is \(red brake/])
  end

  it "refuses to condemn while the diagnosis is undetermined" do
    open = job(codes: "C0031-31 current")
    option = workshop.dossier(open).options.choices.first.id
    decide(open, option: option, signed_by: "A")
    expect([last_response.status, text]).to match([422, /still undetermined/])
  end

  it "refuses to condemn a module before its supply is proven under load" do
    early = job(codes: "C0031-31 current")
    rows = { "resistance.module_plug" => "1.1k", "ac_volts.module_plug" => "0.26", "scope.module_plug" => "even" }
    rows.merge("simulate_at_module" => "none").each { |test, value| read(early, "front_left.#{test}", value) }
    decide(early, option: "new_module", signed_by: "A. Reed")
    expect([last_response.status, text]).to match(
      [422, /Refused: Not before the diagnosis is proven.*Still to test: power/]
    )
    read(early, "front_left.simulate_at_module", "none") # what decides is done twice
    read(early, "abs_module.loaded_supply", "12.3")
    read(early, "front_left.look_joint.module_plug", "good") # water there would drown the signal as well
    decide(early, option: "new_module", signed_by: "A. Reed")
    expect(last_response.status).to eq(303)
  end

  it "closes the search: no reading, scan, withdrawal, circumstance, capture or circuit is taken after it" do
    decide(number, option: "new_sensor", signed_by: "A. Reed")
    before = signed(number)
    acts = Gadwall::Job::Acts
    sheet = workshop.dossier(number).record.vehicle.merge("park_brake" => "caliper_motor")
    [
      [acts::TakeReading, { test: "front_left.resistance.sensor_plug", typed: "1k", phase: "before" }],
      [acts::KeepScan, { codes: [], modules: [], phase: "before" }],
      [acts::SkipScan, { reason: "x" }],
      [acts::CorrectCode, { scan: 2, index: 0, circuit: "front_left", claim: "open" }],
      [acts::Withdraw, { entry: 3, reason: "x" }],
      [acts::SayCircumstances, { ids: [], shop_cases: true }],
      [acts::TakeFindings, { rows: [{ "test" => "front_left.look_ring", "result" => "good" }], capture: 1 }],
      [acts::Decide, { option: "hub_with_sensor", signed_by: "B" }],
      [acts::EditSheet, { vehicle: sheet, system: workshop.loader.system(sheet) }]
    ].each do |act, values|
      done = perform(number, act, **values)
      expect([act, done.ok?, done.errors.values.join]).to match([act, false, /Diagnosis closed|Choose/])
    end
    expect(signed(number)).to eq(before)
  end

  it "stands to the letter through 50 closed jobs, other prices, another engine, and a new name on the sheet" do
    decide(number, option: "new_sensor", signed_by: "A. Reed", words: "do it")
    submit("/jobs/#{number}/repair", "/jobs/#{number}/repair/scan_first", state: "done")
    before = signed(number)
    rows =
      Array.new(50) do |i|
        { job_id: 1, template: "wheel_speed_passive", fault: "ring.missing", closed_at: (workshop.now - i).iso8601 }
      end
    workshop.instance_variable_get(:@database)[:closed_cases].multi_insert(rows)
    sheet = workshop.dossier(number).record.vehicle.merge("name" => "Renamed van")
    expect(
      perform(number, Gadwall::Job::Acts::EditSheet, vehicle: sheet, system: workshop.loader.system(sheet))
    ).to be_ok
    other = WebHelp::OtherEngine.new
    other.swap(self)
    fresh = Web::Workshop.new(workshop.instance_variable_get(:@database), models: WebHelp::SHARED)
    app.set :workshop, fresh
    expect(signed(number)).to eq(before)
    get "/jobs/#{number}/decide"
    expect(text).to include("Today's assessment differs").and include("What was signed stands")
  end

  it "is opened again with a reason, keeps what was signed in the log, and carries signed steps over" do
    decide(number, option: "new_sensor", signed_by: "A. Reed")
    submit("/jobs/#{number}/repair", "/jobs/#{number}/repair/scan_first", state: "done")
    submit("/jobs/#{number}/decide", "/jobs/#{number}/reopen", reason: "")
    expect([last_response.status, text]).to match([422, /Enter why the diagnosis is opened again/])
    submit("/jobs/#{number}/decide", "/jobs/#{number}/reopen", reason: "sensor was sound after all")
    read(number, "front_left.look_joint.sensor_plug", "good")
    expect(last_response.status).to eq(303)
    decide(number, option: "hub_with_sensor", signed_by: "A. Reed")
    dossier = workshop.dossier(number)
    expect(dossier.log.entries.map(&:kind).tally).to include("decision" => 2, "plan" => 2, "reopen" => 1)
    expect(dossier.plan.row("scan_first").state).to eq("done")
    expect(dossier.log.plan.carried.keys).to eq(["scan_first"])
    expect(dossier.decisions.map { |each| each.choice.id }).to eq(["hub_with_sensor"])
    get "/jobs/#{number}/report"
    expect(text).to include("Diagnosis reopened: sensor was sound after all")
  end

  it "decides two faults one after the other, and closes with the second" do
    two = job(front: "active", rear: "active", codes: "C0031-13 current\nC0037-13 current")
    %w[front_left rear_left].each do |corner|
      [
        %w[feed_volts.body_connector 12.1],
        %w[feed_volts.sensor_plug 0.4],
        %w[look_joint.body_connector good]
      ].each { |test, value| read(two, "#{corner}.#{test}", value) }
    end
    expect(workshop.dossier(two).open_offers.size).to eq(2)
    decide(two, option: "renew_lead", signed_by: "A")
    expect([last_response.location, workshop.dossier(two).decided?]).to match([%r{/decide\z}, false])
    first = workshop.dossier(two).decisions.first.place
    decide(two, option: "renew_lead", signed_by: "A")
    dossier = workshop.dossier(two)
    expect([last_response.location, dossier.decided?]).to match([%r{/repair\z}, true])
    expect(dossier.decisions.map(&:place).uniq).to match([first, anything])
    expect(dossier.log.of("plan").size).to eq(1)
  end
end
