# frozen_string_literal: true

module Web
  # The workshop's day: every open job's work that is left, planned from now on around what somebody fixed.
  class DayDesk
    MOST_JOBS = 40
    UNDER_REPAIR = %w[repair proof].freeze
    KEPT = 6
    WORK = 5000 # steps placed in search of a good day while a page waits
    STEP_MINUTES = 5 # the plan is made anew so often

    # A day as a page shows it. planned: Gadwall::Scheduling::Planner::Planned; date: ISO 8601; now: minutes; change:
    # what differs from what was agreed on, in a sentence, or nil; records: {number => Gadwall::Job::Record}; stands:
    # {number => how the vehicle stands, Array of String}; fixed: {step id => payload}; parts: {number => minutes};
    # left_out: open jobs that are not planned.
    Day =
      Struct.new(:planned, :date, :now, :change, :records, :stands, :fixed, :parts, :left_out, keyword_init: true) do
        # The next piece of work of a person that has not begun: Slot or nil. name: text.
        def next_for(name)
          planned.schedule.lane(name).find { |slot| slot.step.attended }
        end
      end

    # workshop: Web::Workshop; store: Store::DayStore.
    def initialize(workshop, store)
      @workshop = workshop
      @store = store
      @kept = Gadwall::Recent.new(KEPT)
    end

    attr_reader :store

    # now: Time. Returns Day.
    def day(now)
      date, minute = moment(now)
      marks = @store.marks(date)
      listed, left_out = listed()
      dossiers = listed.map { |each| @workshop.dossier(each.number) }
      key = [
        date,
        minute / STEP_MINUTES,
        marks,
        @store.hours.to_h,
        dossiers.map { |each| [each.number, each.last_seq] }
      ]
      planned, fixed, parts = @kept.fetch(key) { planned(dossiers, listed, marks, now, minute) }
      change = Gadwall::Scheduling::Change.words(@store.baseline(date), planned.schedule)
      @last =
        Day.new(
          planned: planned,
          date: date,
          now: minute,
          change: change,
          records: dossiers.to_h { |each| [each.number, each.record] },
          stands: dossiers.to_h { |each| [each.number, each.standing.said] },
          fixed: fixed,
          parts: parts,
          left_out: left_out
        )
    end

    # The day as it was planned within the last minutes, whatever happened since: for a page beside which it is said.
    def recent(now)
      date, minute = moment(now)
      fresh = @last && @last.date == date && (minute - @last.now).between?(0, STEP_MINUTES)
      fresh ? @last : day(now)
    end

    # The first look of a day is what is agreed on until somebody agrees to another.
    def begin_day(now, by:)
      agree(now, by: by) if @store.baseline(moment(now).first).empty?
    end

    # Takes the day as it is planned now for the one that was agreed on.
    def agree(now, by:)
      day = day(now)
      done = day.planned.schedule.problem.jobs.to_h { |job| [job.id, day.planned.schedule.done_at(job.id)] }
      @store.save_baseline(day.date, done, by: by, at: now.iso8601)
    end

    private

    # [date as ISO 8601, minutes from midnight], here. now: Time.
    def moment(now)
      local = now.localtime
      [local.strftime("%F"), (local.hour * 60) + local.min]
    end

    # Open jobs, as many as a day can hold: what stands apart under repair stays, then goes what was promised first.
    # Returns [Array of Store::SummaryStore::Listed, how many are left out].
    def listed
      open = @workshop.summaries.open
      begun, others = by_promise(open).partition { |each| UNDER_REPAIR.include?(each.summary.stage) }
      planned = (begun + others).first(MOST_JOBS)
      [by_promise(planned), open.size - planned.size]
    end

    def by_promise(jobs)
      jobs.sort_by { |each| [each.summary.promised_at || "9", each.number] }
    end

    def planned(dossiers, listed, marks, now, minute)
      hours = @store.hours
      from_job = Gadwall::Scheduling::FromJob.new(hours, learned: @store.learned)
      parts = {}
      search = listed.to_h { |each| [each.number, each.summary.minutes] }
      jobs =
        dossiers.filter_map do |dossier|
          part = marks.dig([dossier.record.id, Store::DayStore::PART], "at")
          parts[dossier.number] = part if part
          from_job.job(
            dossier,
            clock: now,
            now: minute,
            promised: promised(dossier, now),
            part_at: part,
            spent: spent(dossier, now),
            search: search[dossier.number]
          )
        end
      fixed = fixed(dossiers, marks)
      jobs = jobs.map { |job| around(job, fixed, minute) }
      problem =
        Gadwall::Scheduling::Problem.new(jobs: jobs, resources: hours.resources, start: [minute, hours.start].max)
      [Gadwall::Scheduling::Planner.plan(problem, work: WORK), fixed, parts]
    end

    # Minutes from midnight of today; a day later counts on.
    def promised(dossier, now)
      at = dossier.record.promised_at or return
      midnight = now.localtime.then { |local| Time.new(local.year, local.month, local.day) }
      ((Time.iso8601(at) - midnight) / 60).round
    end

    # Minutes since the last entry of today: the step at hand began then.
    def spent(dossier, now)
      last = dossier.log.entries.last&.at or return 0
      minutes = (now - Time.iso8601(last)) / 60
      minutes.between?(0, 120) ? minutes.floor : 0
    end

    # {step id => payload} of what somebody put somewhere.
    def fixed(dossiers, marks)
      numbers = dossiers.to_h { |each| [each.record.id, each.number] }
      marks
        .reject { |(_, step), _| step == Store::DayStore::PART }
        .to_h { |(job_id, step), payload| [step, payload.merge("job" => numbers[job_id])] }
    end

    def around(job, fixed, minute)
      steps =
        job.steps.map do |step|
          given = fixed[step.id] or next step
          from = [given["from"], minute].max
          uses = given["uses"].select { |id| step.needs.any? { |ids| ids.include?(id) } }
          rest = step.needs.reject { |ids| ids.intersect?(uses) }.map(&:first)
          slot = Gadwall::Scheduling::Slot.new(step: step, from: from, to: from + step.minutes, uses: uses + rest)
          step.dup.tap { |copy| copy.fixed = slot.freeze }.freeze
        end
      job.dup.tap { |copy| copy.steps = steps }.freeze
    end
  end
end
