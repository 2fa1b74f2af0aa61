# frozen_string_literal: true

require "json"

module Gadwall
  module Scheduling
    # `bin/gadwall day`: a day as a file describes it (docs/formats/day.md), planned.
    class DayFile
      MOST_STEPS = 600
      KINDS = { "people" => "person", "places" => "place", "tools" => "tool" }.freeze

      # text: JSON. Raises InputError.
      def initialize(text)
        @data = Quantity::Decimal.json(text, field: "day file", fix: "See docs/formats/day.md.")
        raise wrong("day file", text[0, 30], "an object with jobs, people, places and tools") unless @data.is_a?(Hash)
      end

      # As `bin/gadwall day` prints it.
      def to_h
        planned = Planner.plan(problem, seed: integer(@data.fetch("seed", 1), "seed", 0..1_000_000))
        schedule = planned.schedule
        {
          lanes: problem.resources.map { |each| { resource: each.id, slots: slots(schedule.lane(each.id)) } },
          late_minutes: schedule.late,
          does_not_fit: misfits(schedule),
          idle_minutes: schedule.idle,
          moves: schedule.moves,
          optimal: planned.optimal,
          late_minutes_at_least: planned.late_at_least
        }
      end

      # Gadwall::Problem. Raises InputError.
      def problem
        @problem ||=
          Problem
            .new(jobs: jobs, resources: resources, start: time(@data.fetch("start", "08:00"), "start"))
            .tap { |made| check(made) }
      end

      private

      def wrong(field, given, expected, fix = nil)
        InputError.new(field: field, given: given, expected: expected, fix: fix || "See docs/formats/day.md.")
      end

      def slots(list)
        list.map { |slot| { job: slot.job, step: slot.step.id, from: Clock.text(slot.from), to: Clock.text(slot.to) } }
      end

      # What goes over the hours of those whom it takes, and who is away then.
      def misfits(schedule)
        schedule.misfits.map do |slot, resource|
          {
            job: slot.job,
            step: slot.step.id,
            from: Clock.text(slot.from),
            to: Clock.text(slot.to),
            resource: resource.id,
            why: "#{resource.name} is there #{hours_of(resource)}; more hours, another person or another day would help"
          }
        end
      end

      def hours_of(resource)
        resource.windows.map { |from, to| "#{Clock.text(from)} to #{Clock.text(to)}" }.join(" and ")
      end

      def resources
        @resources ||=
          KINDS.flat_map do |name, kind|
            list(@data, name).each_with_index.map { |row, i| resource(row, kind, name, i) }
          end
      end

      # A resource may be an id alone.
      def resource(row, kind, name, index)
        row = { "id" => row } if row.is_a?(String)
        field = "#{name}[#{index}]"
        raise wrong(field, row, "an id, or an object with one") unless row.is_a?(Hash) && row["id"].is_a?(String)

        Resource.new(
          id: row["id"],
          name: row.fetch("name", row["id"]).to_s,
          kind: kind,
          skills: [*texts(row["skills"], "#{field}.skills"), *row["kind"]&.to_s],
          windows: windows(row, field)
        ).freeze
      end

      def windows(row, field)
        given = row["windows"] || (row["from"] && [[row["from"], row["to"] || "24:00"]]) || []
        raise wrong("#{field}.windows", given, "pairs of times") unless given.is_a?(Array)

        given.map do |from, to|
          pair = [time(from, "#{field} from"), time(to, "#{field} to")]
          raise wrong("#{field} to", to, "a time after #{from}") unless pair[0] < pair[1]

          pair
        end
      end

      def jobs
        rows = list(@data, "jobs")
        rows.each_with_index.map { |row, i| job(row, "jobs[#{i}]") }
      end

      def job(row, field)
        raise wrong(field, row, "an object with id and steps") unless row.is_a?(Hash) && row["id"].is_a?(String)

        ready = row["ready"] ? time(row["ready"], "#{field}.ready") : 0
        steps = list(row, "steps", field)
        made =
          steps.each_with_index.map do |step, i|
            step(step, row, ready, "#{field}.steps[#{i}]", i.zero? ? nil : steps[i - 1])
          end
        Job.new(
          id: row["id"],
          name: row.fetch("name", row["id"]).to_s,
          promised: row["promised"] && time(row["promised"], "#{field}.promised"),
          steps: made
        ).freeze
      end

      # after: ids of steps of this job; the one before where it says nothing, none where it says [].
      def step(row, job, ready, field, before)
        raise wrong(field, row, "an object with id and minutes") unless row.is_a?(Hash) && row["id"].is_a?(String)

        after = row.key?("after") ? texts(row["after"], "#{field}.after") : [before && before["id"]].compact
        attended = !row.fetch("unattended", false)
        part = row["part_at"] ? time(row["part_at"], "#{field}.part_at") : 0
        Step
          .new(
            id: full(job, row["id"]),
            job: job["id"],
            title: row.fetch("title", row["id"]).to_s,
            minutes: integer(row["minutes"], "#{field}.minutes", 0..2880),
            needs: needs(row, attended, field),
            after: after.map { |id| full(job, id) },
            attended: attended,
            earliest: [ready, part].max,
            fixed: nil
          )
          .then { |made| fixed(made, row, field) }
          .freeze
      end

      # Ids of steps are told apart by their job where two jobs use the same.
      def full(job, id)
        return id if id.to_s.start_with?("#{job["id"]}.") || !repeated.include?(id)

        "#{job["id"]}.#{id}"
      end

      def repeated
        @repeated ||=
          begin
            ids =
              list(@data, "jobs").grep(Hash).flat_map { |job| Array(job["steps"]).grep(Hash).map { |step| step["id"] } }
            ids.tally.select { |_, count| count > 1 }.keys
          end
      end

      # [[ids that would do], ...]: a person where it takes hands, a place, tools.
      def needs(row, attended, field)
        list = []
        list << people(row, field) if attended || row["person"] || row["skills"]
        hands = integer(row.fetch("people", 1), "#{field}.people", 1..9)
        (hands - 1).times { list << people(row, field) }
        list << named(row["place"], "place", "#{field}.place") if row["place"]
        tools = row["tools"] || []
        raise wrong("#{field}.tools", tools, "a list of ids") unless tools.is_a?(Array)

        (list + tools.map { |each| named(each, "tool", "#{field}.tools") }).tap { |all| enough!(all, row, field) }
      end

      # Two of a kind are two different ones.
      def enough!(lists, row, field)
        lists.tally.each do |ids, count|
          next if ids.size >= count

          fix = "A step that needs two takes two different ones at the same time."
          raise wrong(field, "#{row["id"]} needs #{count} of #{ids.join(", ")}", "#{count} of that kind", fix)
        end
      end

      def people(row, field)
        return named(row["person"], "person", "#{field}.person") if row["person"] && row["person"] != "any"

        skills = texts(row["skills"], "#{field}.skills")
        able = resources.select { |each| each.kind == "person" && each.able?(skills) }.map(&:id)
        return able if able.any?

        raise wrong(
                "#{field}.skills",
                skills.join(", "),
                "a person who can do it",
                "Nobody in people has these skills."
              )
      end

      # An id, or a kind that several share ("lift").
      def named(given, kind, field)
        pool = resources.select { |each| each.kind == kind }
        ids = Array(given).flat_map { |name| pool.select { |each| each.id == name || each.able?([name]) }.map(&:id) }
        return ids.uniq if ids.any?

        raise UnknownNameError.new(field: field, given: Array(given).join(", "), known: pool.map(&:id))
      end

      # {"from" => "09:00", "uses" => [ids]}: where somebody put it, or where it is already.
      def fixed(step, row, field)
        given = row["fixed"] or return step
        raise wrong("#{field}.fixed", given, "an object with from and uses") unless given.is_a?(Hash)

        from = time(given["from"], "#{field}.fixed.from")
        to = given["to"] ? time(given["to"], "#{field}.fixed.to") : from + step.minutes
        uses = texts(given["uses"], "#{field}.fixed.uses")
        unknown = uses.find { |id| resources.none? { |each| each.id == id } }
        raise UnknownNameError.new(field: "#{field}.fixed.uses", given: unknown, known: resources.map(&:id)) if unknown

        step.dup.tap { |copy| copy.fixed = Slot.new(step: step, from: from, to: to, uses: uses).freeze }
      end

      def list(data, name, field = nil)
        given = data.fetch(name, [])
        return given if given.is_a?(Array)

        raise wrong([field, name].compact.join("."), given, "a list")
      end

      def texts(given, field)
        return [] if given.nil?
        return given if given.is_a?(Array) && given.all?(String)

        raise wrong(field, given, "a list of texts")
      end

      def time(text, field)
        Clock.minutes(text, field: field)
      end

      def integer(value, field, range)
        return value if value.is_a?(Integer) && range.cover?(value)

        raise wrong(field, value, "a whole number from #{range.first} to #{range.last}")
      end

      def check(made)
        ids = made.steps.map(&:id)
        raise wrong("jobs", "#{ids.size} steps", "at most #{MOST_STEPS} steps") if ids.size > MOST_STEPS

        twice = (ids.tally.select { |_, count| count > 1 }.keys + doubled(made)).first
        raise wrong("jobs", twice, "each id once") if twice

        made.steps.each { |step| follows(step, ids) }
        circle = circle(made)
        raise wrong("after", circle, "steps that do not wait for one another in a circle") if circle
      end

      def doubled(made)
        names = made.resources.map(&:id)
        made.jobs.map(&:id).tally.select { |_, count| count > 1 }.keys +
          names.tally.select { |_, count| count > 1 }.keys
      end

      def follows(step, ids)
        missing = step.after.find { |id| !ids.include?(id) }
        raise UnknownNameError.new(field: "after of #{step.id}", given: missing, known: ids) if missing
      end

      # Id of a step that waits for itself, or nil.
      def circle(made)
        left = made.steps
        done = Set.new
        loop do
          ready, left = left.partition { |step| step.after.all? { |id| done.include?(id) } }
          return left.first&.id if ready.empty?

          done.merge(ready.map(&:id))
        end
      end
    end
  end
end
