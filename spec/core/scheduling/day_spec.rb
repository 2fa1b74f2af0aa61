# frozen_string_literal: true

require "spec_helper"

# Planning the day, against published examples and against brute force.
RSpec.describe Gadwall::Scheduling do
  def step(id, job, minutes, needs, after: [], attended: true, earliest: 0)
    described_class::Step.new(
      id: id,
      job: job,
      title: id,
      minutes: minutes,
      needs: needs,
      after: after,
      attended: attended,
      earliest: earliest,
      fixed: nil
    ).freeze
  end

  def person(id, skills: [], windows: [])
    described_class::Resource.new(id: id, name: id, kind: "person", skills: skills, windows: windows)
  end

  def problem(jobs, resources, start: 0)
    described_class::Problem.new(jobs: jobs, resources: resources, start: start)
  end

  def job(id, steps, promised: nil)
    described_class::Job.new(id: id, name: id, promised: promised, steps: steps)
  end

  # Jobs of one step each on one machine: [[minutes, due], ...].
  def single_machine(rows)
    jobs =
      rows.each_with_index.map do |(minutes, due), i|
        job("j#{i}", [step("s#{i}", "j#{i}", minutes, [["m"]])], promised: due)
      end
    problem(jobs, [person("m")])
  end

  describe "published examples" do
    # Fisher and Thompson 1963, six jobs on six machines: [machine, time] of each operation; best known and proven 55.
    six_by_six = [
      [[2, 1], [0, 3], [1, 6], [3, 7], [5, 3], [4, 6]],
      [[1, 8], [2, 5], [4, 10], [5, 10], [0, 10], [3, 4]],
      [[2, 5], [3, 4], [5, 8], [0, 9], [1, 1], [4, 7]],
      [[1, 5], [0, 5], [2, 5], [3, 3], [4, 8], [5, 9]],
      [[2, 9], [1, 3], [4, 5], [5, 4], [0, 3], [3, 1]],
      [[1, 3], [3, 3], [5, 9], [0, 10], [4, 4], [2, 1]]
    ].freeze

    it "ends the six-by-six job shop of Fisher and Thompson (1963) at 55, which is the best there is" do
      jobs =
        six_by_six.each_with_index.map do |operations, j|
          steps =
            operations.each_with_index.map do |(machine, minutes), i|
              step("#{j}.#{i}", "j#{j}", minutes, [["m#{machine}"]], after: i.zero? ? [] : ["#{j}.#{i - 1}"])
            end
          job("j#{j}", steps)
        end
      shop = problem(jobs, (0..5).map { |m| person("m#{m}") })
      found = described_class::Search.new(shop, criterion: :makespan.to_proc, work: 120_000).solve
      expect(found.makespan).to eq(55)
    end

    it "makes the greatest lateness least on one machine as Jackson's rule does (1955: by due date)" do
      random = Random.new(3)
      20.times do
        rows = Array.new(5) { [random.rand(1..9), random.rand(1..25)] }
        most = ->(schedule) { schedule.problem.jobs.map { |each| schedule.done_at(each.id) - each.promised }.max }
        found, proven = described_class::Exact.new(single_machine(rows), criterion: most, bound: ->(_) {}).solve
        clock = 0
        by_due = rows.sort_by(&:last).map { |minutes, due| (clock += minutes) - due }.max
        expect([most.call(found), proven]).to eq([by_due, true])
      end
    end

    it "ends Johnson's two-machine example at 29, in number order at 32 (Johnson 1954, handbook, from memory)" do
      rows = [[3, 6], [7, 2], [4, 7], [5, 3], [8, 5]]
      jobs =
        rows.each_with_index.map do |(first, second), i|
          job(
            "j#{i}",
            [step("#{i}a", "j#{i}", first, [["a"]]), step("#{i}b", "j#{i}", second, [["b"]], after: ["#{i}a"])]
          )
        end
      shop = problem(jobs, [person("a"), person("b")])
      found = described_class::Search.new(shop, criterion: :makespan.to_proc).solve
      in_order = described_class::Builder.new(shop).build((0..4).flat_map { |i| ["#{i}a", "#{i}b"] })
      expect([found.makespan, in_order.makespan]).to eq([29, 32])
    end

    it "has one late job of Moore and Hodgson's four, where due dates alone have three (1968, handbook, from memory)" do
      shop = single_machine([[2, 3], [3, 4], [1, 5], [4, 8]])
      count = ->(schedule) { schedule.late.values.count(&:positive?) }
      found, = described_class::Exact.new(shop, criterion: count, bound: ->(_) {}).solve
      by_due = described_class::Builder.new(shop).build(%w[s0 s1 s2 s3])
      expect([count.call(found), count.call(by_due)]).to eq([1, 3])
    end

    it "takes 7.25 h for the chain of a hub and its coding (critical path, handbook, from memory)" do
      rows = {
        a: [30, []],
        b: [30, [:a]],
        c: [60, [:b]],
        d: [120, [:c]],
        e: [45, [:c]],
        f: [90, %i[d e]],
        g: [30, [:f]],
        h: [30, [:g]],
        i: [45, [:f]],
        j: [30, %i[h i]],
        k: [15, [:j]]
      }
      steps = rows.map { |id, (minutes, after)| step(id.to_s, "J", minutes, [], after: after.map(&:to_s)) }
      shop = problem([job("J", steps)], [])
      expect(described_class::Builder.new(shop).build(rows.keys.map(&:to_s)).makespan).to eq(435)
      expect(described_class::Bounds.finish(shop, shop.jobs.first)).to eq(435)
    end
  end

  # Every order of steps and every choice of who and where, each step as early as it can be: nothing left out.
  def brute(shop)
    best = nil
    shop.steps.permutation.each do |order|
      next unless order.each_with_index.all? { |each, i| (each.after - order.first(i).map(&:id)).empty? }

      all = order.map { |each| each.needs.empty? ? [[]] : each.needs[0].product(*each.needs[1..]) }
      all[0]
        .product(*all[1..])
        .each do |choice|
          cost = described_class::Schedule.new(shop, by_hand(shop, order, choice)).cost
          best = cost if best.nil? || (cost <=> best).negative?
        end
    end
    best
  end

  def by_hand(shop, order, choice)
    busy = Hash.new { |hash, key| hash[key] = [] }
    slots = []
    order.zip(choice) do |each, uses|
      at = [each.earliest, shop.start, *slots.select { |slot| each.after.include?(slot.step.id) }.map(&:to)].max
      at += 1 while uses.any? { |id| busy[id].any? { |from, to| from < at + each.minutes && to > at } }
      uses.each { |id| busy[id] << [at, at + each.minutes] }
      slots << described_class::Slot.new(step: each, from: at, to: at + each.minutes, uses: uses)
    end
    slots
  end

  def random_day(random)
    people = [person("ann"), person("bob", skills: ["hv"])]
    lift = described_class::Resource.new(id: "lift", name: "lift", kind: "place", skills: [], windows: [])
    jobs =
      Array.new(random.rand(1..3)) do |j|
        steps =
          Array.new(random.rand(1..2)) do |i|
            hands = random.rand < 0.75
            needs = []
            needs << (random.rand < 0.3 ? ["bob"] : %w[ann bob]) if hands
            needs << ["lift"] if random.rand < 0.5
            after = i.zero? ? [] : ["#{j}.#{i - 1}"]
            step(
              "#{j}.#{i}",
              "j#{j}",
              random.rand(1..8),
              needs,
              after: after,
              attended: hands,
              earliest: random.rand(0..4)
            )
          end
        job("j#{j}", steps, promised: random.rand(4..18))
      end
    problem(
      jobs.first(2) + jobs.drop(2).map { |each| job(each.id, each.steps.first(1), promised: each.promised) },
      [*people, lift]
    )
  end

  it "is proven the best on two hundred seeded small days, as brute force finds it" do
    random = Random.new(11)
    wrong =
      Array
        .new(200) { random_day(random) }
        .reject do |shop|
          planned = described_class::Planner.plan(shop, work: 400)
          planned.optimal && planned.schedule.cost == brute(shop)
        end
    expect(wrong.size).to eq(0)
  end

  it "keeps what cannot be otherwise on any day: forerunners, one thing at a time, fixed slots, bounds" do
    random = Random.new(12)
    40.times do
      shop = random_day(random)
      schedule = described_class::Planner.plan(shop, work: 300).schedule
      expect(schedule.slots.size).to eq(shop.steps.size)
      schedule.slots.each do |slot|
        before = slot.step.after.map { |id| schedule.slot(id).to }
        expect(slot.from).to be >= [slot.step.earliest, *before].max
      end
      shop.resources.each do |each|
        lane = schedule.lane(each.id)
        expect(lane.each_cons(2).all? { |one, other| one.to <= other.from }).to be(true)
      end
      expect(schedule.cost.first).to be >= described_class::Bounds.late(shop)
    end
  end

  it "works within the hours of people, and over them only where a piece is longer than any" do
    steps = [step("a", "J", 50, [["ann"]]), step("b", "J", 50, [["ann"]], after: ["a"])]
    shop = problem([job("J", steps)], [person("ann", windows: [[60, 120], [180, 240]])])
    slots = described_class::Planner.plan(shop).schedule.slots.map(&:from)
    expect(slots).to eq([60, 180])
    long = problem([job("J", [step("a", "J", 100, [["ann"]])])], [person("ann", windows: [[60, 120]])])
    expect(described_class::Planner.plan(long).schedule.slots.first.from).to eq(60)
  end

  def day_file(data)
    Gadwall::Scheduling::DayFile.new(JSON.generate(data))
  end

  day = {
    "start" => "08:00",
    "people" => [{ "id" => "nora", "skills" => ["high_voltage"] }, "sam"],
    "places" => [{ "id" => "lift_1", "kind" => "lift" }],
    "tools" => ["interface"],
    "jobs" => [
      {
        "id" => "J1",
        "promised" => "10:00",
        "steps" => [
          { "id" => "scan", "minutes" => 15, "tools" => ["interface"] },
          { "id" => "wait", "minutes" => 20, "unattended" => true },
          { "id" => "fit", "minutes" => 30, "skills" => ["high_voltage"], "place" => "lift" }
        ]
      },
      {
        "id" => "J2",
        "promised" => "09:00",
        "steps" => [
          { "id" => "scan", "minutes" => 15, "tools" => ["interface"] },
          { "id" => "mend", "minutes" => 40, "place" => "lift", "part_at" => "08:30" }
        ]
      }
    ]
  }.freeze

  it "reads a day from a file and prints lanes, lateness, idle minutes and whether it is the best" do
    answer = day_file(day).to_h
    expect(answer.keys).to include(:lanes, :late_minutes, :idle_minutes, :optimal)
    expect([answer[:optimal], answer[:late_minutes]["J2"]]).to eq([true, 10])
    fit = answer[:lanes].find { |row| row[:resource] == "nora" }[:slots].find { |slot| slot[:step] == "fit" }
    expect([fit[:job], fit[:from] >= "08:35"]).to eq(["J1", true])
    lift = answer[:lanes].find { |row| row[:resource] == "lift_1" }[:slots]
    expect(lift.map { |slot| slot[:job] }.sort).to eq(%w[J1 J2])
  end

  it "keeps a slot that somebody fixed, and plans the rest around it" do
    moved = JSON.parse(JSON.generate(day))
    moved["jobs"][1]["steps"][1]["fixed"] = { "from" => "09:30", "uses" => %w[sam lift_1] }
    answer = day_file(moved).to_h
    mend = answer[:lanes].find { |row| row[:resource] == "sam" }[:slots].find { |slot| slot[:step] == "mend" }
    expect([mend[:from], answer[:late_minutes]["J2"]]).to eq(["09:30", 70])
  end

  breaks = {
    "a time" => [->(data) { data["start"] = "eight" }, /start/],
    "minutes" => [->(data) { data["jobs"][0]["steps"][0]["minutes"] = "ten" }, /minutes/],
    "a place nobody has" => [->(data) { data["jobs"][0]["steps"][2]["place"] = "pit" }, /place/],
    "a skill nobody has" => [->(data) { data["jobs"][0]["steps"][2]["skills"] = ["welding"] }, /Nobody/],
    "a step that is none" => [->(data) { data["jobs"][0]["steps"][1]["after"] = ["x"] }, /after of/],
    "a circle" => [->(data) { data["jobs"][0]["steps"][0]["after"] = ["fit"] }, /circle/],
    "no list" => [->(data) { data["jobs"] = 3 }, /jobs/]
  }
  breaks.each do |name, (change, words)|
    it "says in one sentence what is wrong with #{name}" do
      data = JSON.parse(JSON.generate(day))
      change.call(data)
      out = StringIO.new
      err = StringIO.new
      code =
        Dir.mktmpdir do |folder|
          path = File.join(folder, "day.json")
          File.write(path, JSON.generate(data))
          Gadwall::CLI::Runner.new(out: out, err: err).run(["day", path])
        end
      expect([code, out.string, err.string.lines.size]).to eq([1, "", 1])
      expect(err.string).to match(words)
    end
  end

  describe "what does not fit, and two of a kind" do
    def planned(day)
      Gadwall::Scheduling::DayFile.new(JSON.generate(day)).to_h
    end

    base = {
      "people" => [
        { "id" => "a", "from" => "08:00", "to" => "17:00" },
        { "id" => "b", "from" => "08:00", "to" => "17:00" }
      ],
      "places" => [],
      "tools" => []
    }

    it "says what would end after closing, by whom and why" do
      day = base.merge("jobs" => [{ "id" => "J1", "steps" => [{ "id" => "long", "minutes" => 700 }] }])
      told = planned(day)[:does_not_fit]
      expect(told.map { |row| row.slice(:job, :step) }).to eq([{ job: "J1", step: "long" }])
      expect(told.first[:why]).to include("is there 08:00 to 17:00")
      short = base.merge("jobs" => [{ "id" => "J1", "steps" => [{ "id" => "short", "minutes" => 60 }] }])
      expect(planned(short)[:does_not_fit]).to eq([])
    end

    it "ends nothing after closing without a word (law, seeded)" do
      12.times do |seed|
        random = Random.new(seed)
        jobs =
          Array.new(random.rand(2..3)) do |i|
            steps = Array.new(random.rand(1..3)) { |k| { "id" => "s#{i}#{k}", "minutes" => random.rand(20..260) } }
            { "id" => "J#{i}", "steps" => steps }
          end
        told = planned(base.merge("jobs" => jobs))
        late =
          told[:lanes].flat_map { |lane| lane[:slots] }.select { |slot| slot[:to] > "17:00" }.map { |slot| slot[:step] }
        expect([seed, late.uniq - told[:does_not_fit].map { |row| row[:step] }]).to eq([seed, []])
      end
    end

    it "takes two different people for a step that needs two, and no one twice at a time (law, seeded)" do
      10.times do |seed|
        random = Random.new(seed)
        jobs =
          Array.new(2) do |i|
            steps =
              Array.new(2) do |k|
                { "id" => "s#{i}#{k}", "minutes" => random.rand(10..60), "people" => random.rand(1..2) }
              end
            { "id" => "J#{i}", "steps" => steps }
          end
        lanes = planned(base.merge("jobs" => jobs))[:lanes]
        jobs
          .flat_map { |job| job["steps"] }
          .each do |step|
            takers = lanes.count { |lane| lane[:slots].any? { |slot| slot[:step] == step["id"] } }
            expect([seed, step["id"], takers]).to eq([seed, step["id"], step["people"]])
          end
        lanes.each do |lane|
          times = lane[:slots].map { |slot| [slot[:from], slot[:to]] }.sort
          expect(times.each_cons(2).all? { |one, two| one[1] <= two[0] }).to be(true)
        end
      end
    end

    it "refuses a kind with one member wanted twice" do
      day =
        base.merge(
          "people" => [{ "id" => "a" }],
          "jobs" => [{ "id" => "J1", "steps" => [{ "id" => "s", "minutes" => 5, "people" => 2 }] }]
        )
      expect { planned(day) }.to raise_error(Gadwall::InputError, /needs 2 of a.*two different ones/)
    end
  end
end
