# frozen_string_literal: true

# A large day: thirty jobs of six steps, five people, four lifts, two interfaces.
class DayFigures
  JOBS = 30
  STEPS = 6

  def initialize(figures)
    @figures = figures
  end

  def run
    file = Gadwall::Scheduling::DayFile.new(JSON.generate(day))
    problem = file.problem
    @figures.median("a day of #{JOBS} jobs planned", 1000, times: 3) { Gadwall::Scheduling::Planner.plan(problem) }
    planned = Gadwall::Scheduling::Planner.plan(problem)
    late = planned.schedule.late.values.sum
    @figures.say("  #{late} min late, at least #{planned.late_at_least}: gap #{late - planned.late_at_least} min")
  end

  private

  def day
    random = Random.new(4)
    people =
      (1..5).map do |i|
        { "id" => "p#{i}", "skills" => i == 1 ? ["high_voltage"] : [], "from" => "08:00", "to" => "17:00" }
      end
    {
      "start" => "08:00",
      "people" => people,
      "places" => (1..4).map { |i| { "id" => "lift#{i}", "kind" => "lift" } },
      "tools" => %w[first second].map { |id| { "id" => id, "kind" => "interface" } },
      "jobs" => (1..JOBS).map { |j| job(j, random) }
    }
  end

  def job(number, random)
    steps = (1..STEPS).map { |s| step(number, s, random) }
    { "id" => "J#{number}", "promised" => format("%02d:00", random.rand(11..18)), "steps" => steps }
  end

  def step(number, index, random)
    row = { "id" => "J#{number}.#{index}", "minutes" => random.rand(5..30) }
    row["unattended"] = true if index == 3
    row["place"] = "lift" if [2, 4].include?(index)
    row["tools"] = ["interface"] if [1, STEPS].include?(index)
    row["skills"] = ["high_voltage"] if index == 4 && (number % 10).zero?
    row
  end
end
