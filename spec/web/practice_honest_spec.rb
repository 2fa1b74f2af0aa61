# frozen_string_literal: true

require "web_helper"

# An exercise tells nothing for nothing, and scores what was done.
RSpec.describe "An honest exercise", :web do
  def begin_exercise(id = "dead-coil")
    sign_in
    post "/practice", guards("/practice", "/practice").merge("exercise" => id)
    last_response.location[/P\d+/]
  end

  def bay
    app.practice
  end

  def on_vehicle(number, **act)
    record = bay.dossier(number).record
    bay.stands.act(record, act.transform_keys(&:to_s), by: "x", at: bay.now)
  end

  def scored(number)
    stand = bay.stands.of(bay.dossier(number).record)
    exercise = stand.exercise
    solution = Gadwall::Training::Solver.new(exercise, models: WebHelp::SHARED).solve
    Gadwall::Training::Debrief.new(stand, bay.dossier(number).log, solution)
  end

  it "names no fault by its id, on the list of exercises or in what it sends" do
    sign_in
    get "/practice"
    ids = Gadwall::Training::ExerciseBook.all.map(&:id)
    expect(ids.select { |id| last_response.body.include?(id) }).to eq([])
    key = Nokogiri.HTML5(last_response.body).at_css("input[name=exercise]")["value"]
    number = begin_exercise(key)
    %w[codes bench trace].each do |page|
      get "/jobs/#{number}/#{page}"
      expect([page, ids.select { |id| last_response.body.include?(id) }]).to eq([page, []])
    end
  end

  it "tells no suspect in the head of any page before it is proven or paid for" do
    number = begin_exercise
    codes = [{ "code" => "C0034", "failure_type" => "13", "status" => "current" }]
    scan = { codes: codes, modules: [{ "name" => "ABS", "answered" => true }], phase: "before" }
    bay.perform(number, Gadwall::Job::Acts::KeepScan, scan, by: "x") { "/" }
    %w[codes decide repair trace].each do |page|
      get "/jobs/#{number}/#{page}"
      head = Nokogiri.HTML5(last_response.body).css(".status").text.gsub(/\s+/, " ")
      expect([page, head]).not_to match([page, /sensor|coil|ring|wire|connector|%/i])
    end
  end

  it "scores nothing for handing back untouched" do
    number = begin_exercise
    on_vehicle(number, kind: "finish")
    expect(scored(number).score).to eq(0)
  end

  it "mends nothing by 'no repair, monitor'" do
    number = begin_exercise
    on_vehicle(number, kind: "key", to: "on")
    hidden = -> { bay.stands.of(bay.dossier(number).record).vehicle.wiring.hidden.size }
    before = hidden.call
    entry = Gadwall::Job::Entries::Decision
    decisions =
      %w[watch new_sensor].map { |option| instance_double(entry, option: option, place: "front_right/sensor") }
    log = instance_double(Gadwall::Job::Log, decisions: decisions)
    routes = Class.new { include Web::Routes::Bench::Drawing }.new
    routes.define_singleton_method(:dossier) { Struct.new(:log).new(log) }
    expect(routes.decided_places).to eq([%w[front_right/sensor new_sensor]])
    on_vehicle(number, kind: "step", title: "Leave as it is", words: %w[watch:days], minutes: 1, places: [])
    expect(hidden.call).to eq(before)
    on_vehicle(number, kind: "finish")
    expect(scored(number).score).to eq(0)
  end

  it "answers within 300 ms with 200 exercises open, and builds no vehicle for the list" do
    sign_in
    exercise = Gadwall::Training::ExerciseBook.all.first
    values = {
      vehicle: exercise.vehicle,
      customer: "A. Reed",
      complaint: "lamp",
      ids: [],
      triage: [],
      promised_at: nil
    }
    200.times do |i|
      made = nil
      bay.check_in(values, by: "x") { |job| (made = job) && "/" }
      bay.stands.connect(made, exercise, by: "x", at: bay.now + i)
    end
    allow(Gadwall::Training::Stand).to receive(:replay).and_call_original
    get "/practice"
    from = Process.clock_gettime(Process::CLOCK_MONOTONIC)
    get "/practice"
    expect([last_response.status, Process.clock_gettime(Process::CLOCK_MONOTONIC) - from]).to match([200, be < 0.3])
    expect(text.scan(/P\d{3}/).uniq.size).to be <= 6
    expect(Gadwall::Training::Stand).not_to have_received(:replay)
  end

  it "bounds what is got ready in the background" do
    worker = Web::Background::Worker.new
    gate = Queue.new
    30.times { worker.later { gate.pop } }
    expect(worker.size).to be <= Web::Background::Worker::MOST
    30.times { gate << :go }
  end

  it "shows an instructor what an exercise is judged by, and judges by what he changed" do
    sign_in
    expect(get("/practice/rubric").body).to include("on a guess")
    submit("/practice/rubric", "/practice/rubric", points: { "hint" => "9" })
    expect(last_response.status).to eq(303)
    expect(bay.rubric.to_h).to include("hint" => 9, "condemned" => 15)
    submit("/practice/rubric", "/practice/rubric", points: { "hint" => "lots" })
    expect([last_response.status, last_response.body]).to match([422, include("0 to 100").and(include('value="lots"'))])
    expect(bay.rubric.to_h["hint"]).to eq(9)
  end
end
