# frozen_string_literal: true

require "web_helper"
require_relative "../../demo/day"
require_relative "../../demo/workshop"

# The day of the demo workshop: a late part, a high-voltage job that one person may do, a programming wait.
RSpec.describe "The day", :web do
  before do
    Demo::Workshop.load(workshop, only: %w[02 12 14 15])
    numbers = workshop.summaries.open.to_h { |each| [each.name, each.number] }
    @hybrid = numbers.fetch("Taxi hybrid, ivory")
    @pick_up = numbers.fetch("Brickyard pick-up, ochre")
    hours = ["N. Ashgrove; high_voltage; 00:00-47:00", "O. Fennel;; 00:00-47:00"]
    lines = { "start" => "00:00", "people" => hours, "places" => ["Lift 1; lift", "Lift 2; lift"] }
    workshop.days.save_hours(Gadwall::Scheduling::WorkshopHours.new(lines), by: "N. Ashgrove", at: workshop.now.iso8601)
    sign_in
    @signed_in = true
  end

  def schedule
    Web::DayDesk.new(workshop, workshop.days).day(workshop.now).planned.schedule
  end

  it "gives the high-voltage steps to who is licensed, and lets waits run by themselves" do
    slots = schedule.slots
    licensed =
      slots.select do |slot|
        slot.job == @hybrid && slot.step.title.match?(/high voltage|absence of voltage/i) && slot.step.attended
      end
    expect(licensed.map { |slot| slot.uses & ["N. Ashgrove", "O. Fennel"] }.uniq).to eq([["N. Ashgrove"]])
    waits = slots.reject { |slot| slot.step.attended }
    expect(waits).not_to be_empty
    expect(waits.flat_map(&:uses) & ["N. Ashgrove", "O. Fennel"]).to be_empty
  end

  it "keeps what is under repair on a day that cannot hold every open job, and says how many are left out" do
    stub_const("Web::DayDesk::MOST_JOBS", 2)
    page = get("/day").body
    under_repair = workshop.summaries.open.select { |each| Web::DayDesk::UNDER_REPAIR.include?(each.summary.stage) }
    kept = schedule.problem.jobs.map(&:id)
    expect(kept & under_repair.map(&:number)).to eq(kept)
    expect(page).to include("<strong>2 more open</strong>")
  end

  it "waits for a part that is late, and says in a sentence what that changes" do
    get "/day"
    late = ((workshop.now.localtime.hour + 6) * 60) + 5
    submit("/day", "/day/part", job: @pick_up, at: Gadwall::Scheduling::Clock.text(late))
    work = schedule.slots.select { |slot| slot.job == @pick_up && slot.step.title.match?(/tone ring/i) }
    expect(work.map(&:from).min).to be >= late
    get "/day"
    expect(text).to match(/Changed: .*#{@pick_up} done \d\d:\d\d instead of \d\d:\d\d/)
    submit("/day", "/day/agree")
    get "/day"
    expect(text).not_to include("Changed:")
  end

  it "plans the rest around what was moved by hand, and lets it go again" do
    own = schedule.slots.select { |slot| slot.step.attended && slot.job == @pick_up }
    first = own.min_by(&:from)
    from = first.from + 180
    get "/day"
    form = Nokogiri.HTML5(last_response.body).at_css("#day-move")
    post "/day/move",
         hidden(form).merge("step" => first.step.id, "job" => first.job, "from" => from.to_s, "uses" => ["O. Fennel"])
    moved = schedule.slot(first.step.id)
    expect([moved.from, moved.uses.include?("O. Fennel")]).to eq([from, true])
    lane = schedule.lane("O. Fennel")
    expect(lane.each_cons(2).all? { |one, other| one.to <= other.from }).to be(true)
    post "/day/move", hidden(form).merge("step" => first.step.id, "job" => first.job, "free" => "1")
    expect(schedule.slot(first.step.id).from).to be < from
  end

  it "plans anew when a step overruns: what it takes longer is taken from the day" do
    row = workshop.dossier(@pick_up).plan.next_row
    before = schedule.slot("#{@pick_up}.#{row.id}")
    later = workshop.now + 3600
    after = Web::DayDesk.new(workshop, workshop.days).day(later).planned.schedule.slot("#{@pick_up}.#{row.id}")
    expect(after.from).to be >= before.from + 55
  end

  it "is a calendar file, too (RFC 5545)" do
    get "/day.ics"
    expect(last_response.headers["content-type"]).to start_with("text/calendar")
    lines = last_response.body.split("\r\n")
    expect([lines.first, lines.last]).to eq(%w[BEGIN:VCALENDAR END:VCALENDAR])
    starts = lines.grep(/\ADTSTART/)
    expect([starts.size, lines.count("BEGIN:VEVENT")]).to eq([schedule.slots.size] * 2)
    expect(starts).to all(match(/\ADTSTART(;TZID=UTC)?:\d{8}T\d{6}Z?\z/))
  end

  it "names the line of the people that cannot be read, and keeps what was typed" do
    submit("/day", "/day/hours", people: "N. Ashgrove; high_voltage; whenever", places: "", tools: "", start: "08:00")
    expect(last_response.status).to eq(422)
    expect(last_response.body).to include("whenever")
    expect(text).to include("a name; what it can do")
    submit("/day", "/day/part", job: @pick_up, at: "soon")
    expect([last_response.status, text]).to match([422, /a time such as 08:30/])
  end

  it "says on the job list what comes next, and beside a wait what runs meanwhile" do
    only = { "start" => "00:00", "people" => ["N. Ashgrove; high_voltage; 00:00-47:00"] }
    places = { "places" => ["Lift 1; lift", "Lift 2; lift"] }
    alone = Gadwall::Scheduling::WorkshopHours.new(only.merge(places))
    workshop.days.save_hours(alone, by: "N. Ashgrove", at: workshop.now.iso8601)
    get "/"
    expect(last_response.body).to include("/day/next?but=&amp;label=next")
    get "/day/next?label=next"
    expect(text).to include("Next for you")
    get "/day/next?label=wait&but=#{@hybrid}"
    expect(text).to include("While it waits")
    expect(text).not_to include(@hybrid)
  end
end
