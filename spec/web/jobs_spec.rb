# frozen_string_literal: true

require "web_helper"

# The lists: what is in the workshop, sorted by what needs a hand next; what is closed, with a filter.
RSpec.describe "Jobs", :web do
  let(:now) { workshop.now }

  def listed
    get "/"
    Nokogiri.HTML5(last_response.body).css(".jobs-row").map { |row| row.at_css(".jobs-number").text }
  end

  def summary(**more)
    base = {
      stage: "trace",
      closed: false,
      sentence: "s",
      next_action: "n",
      suspect: "",
      since: now.iso8601,
      promised_at: nil,
      waits: [],
      open_points: [],
      codes: [],
      places: {
      },
      change: nil,
      trouble: nil,
      engine: Gadwall::Diagnosis.engine
    }
    Gadwall::Job::Summary.new(**base, **more)
  end

  def standing(number, **more)
    dossier = workshop.dossier(number)
    workshop.summaries.renew(dossier.record, summary(**more), dossier.last_seq)
  end

  it "says when the workshop is empty, and what is not there" do
    get "/"
    expect(text).to include("0 vehicles in the workshop")
    get "/jobs/J999"
    expect([last_response.status, text]).to match([404, /no job J999/])
    get "/nowhere"
    expect([last_response.status, text]).to match([404, /No such page/])
  end

  it "sorts by what needs a hand next: late and due first, running waits and customers last" do
    customer, waiting, work, due, late = Array.new(5) { job }
    minute = ->(count) { (now + (count * 60)).iso8601 }
    standing(customer, stage: "decide")
    standing(waiting, stage: "repair", waits: [{ "title" => "Wait", "until" => minute.call(9) }])
    standing(work, promised_at: minute.call(600))
    standing(due, stage: "repair", waits: [{ "title" => "Wait", "until" => minute.call(-1) }])
    standing(late, promised_at: minute.call(-61))
    expect(listed).to eq([late, due, work, waiting, customer])
    expect(text).to include("1 h 1 min late").and include("Wait: wait is over").and match(/Wait: \d+ min left/)
  end

  it "shows the promise that was made at check-in, and a new one" do
    number = job(promised: "2026-11-30T16:00")
    get "/"
    expect(text).to include("promised 30 Nov 16:00")
    submit("/jobs/#{number}/report", "/jobs/#{number}/promise", promised: "2026-12-01T09:30")
    expect(workshop.dossier(number).record.promised_at).to eq(Time.parse("2026-12-01T09:30").utc.iso8601)
    submit("/jobs/#{number}/report", "/jobs/#{number}/promise", promised: "soon")
    expect([last_response.status, text]).to match([422, /Enter a day and a time/])
  end

  it "lists closed jobs by themselves, page by page, filtered by number, name, plate, customer and DTC" do
    known = [
      ["Ferry van", "WEIR 7", "Otter mill"],
      ["Coal cart", "LOCK 8", "Heron mill"],
      ["Milk float", "QUAY 9", "Swan mill"]
    ]
    numbers =
      known.each_with_index.map do |(name, plate, customer), i|
        job(name: name, plate: plate, customer: customer, codes: "C003#{(i * 3) + 1}")
      end
    numbers.each { |number| standing(number, closed: true, codes: workshop.summary(workshop.dossier(number)).codes) }
    expect(listed).to eq([])
    queries = { numbers[1] => 1, "milk" => 2, "weir 7" => 0, "heron" => 1, "c0037" => 2, "mill cart" => 1 }
    queries.each do |query, i|
      get "/jobs/closed", { "q" => query }
      expect(Nokogiri.HTML5(last_response.body).css(".jobs-number").map(&:text)).to eq([numbers[i]]), query
    end
    get "/jobs/closed", { "q" => "100% _nothing" }
    expect(text).to include("0 closed jobs")
  end

  it "keeps the list and the job alive when a job cannot be assessed, and lets the entry be withdrawn" do
    number = job(codes: "C0031-13 current")
    read(number, "front_left.resistance.body_connector", "OL")
    other = job(codes: "C0037 current")
    allow(Gadwall::Diagnosis).to receive(:assess).and_wrap_original do |assess, system, body|
      raise FloatDomainError, "NaN" if body.observations.any?

      assess.call(system, body)
    end
    workshop.instance_variable_set(:@loader, Web::Workshop.new(workshop.instance_variable_get(:@database)).loader)
    workshop.renew_stale
    dossier = workshop.dossier(number)
    workshop.summaries.renew(dossier.record, Gadwall::Job::Summary.of(dossier), dossier.last_seq)
    expect(listed).to contain_exactly(number, other)
    expect(text).to include("cannot be assessed")
    get "/jobs/#{number}/trace"
    expect([last_response.status, text]).to match([200, /Log of this job.*front_left.resistance.body_connector/])
    submit("/jobs/#{number}/trace", "/jobs/#{number}/withdrawals", entry: "3", reason: "breaks the engine")
    expect(last_response.status).to eq(303)
    get "/jobs/#{number}/trace"
    expect([last_response.status, text]).to match([200, /Next test/])
  end
end
