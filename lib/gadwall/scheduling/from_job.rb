# frozen_string_literal: true

module Gadwall
  module Scheduling
    # What is left of a job, as steps of a day: before the decision what the diagnosis still takes, after it the signed
    # plan step by step, hands and waits apart.
    class FromJob
      LICENSED = %w[zero:high_voltage prove:no_voltage restore:high_voltage].freeze # what one licensed person does
      LEAST = 3 # signed steps of a kind from which the workshop's own time counts
      SOONEST = 5 # minutes that an overrun step is given more

      # hours: WorkshopHours; learned: {step rule => [minutes, times]} of the workshop's own signed steps; catalogue.
      def initialize(hours, learned: {}, catalogue: Knowledge.catalogue)
        @hours = hours
        @learned = learned
        @catalogue = catalogue
      end

      # dossier: Job::Dossier; clock: Time now; now: the same in minutes from midnight; promised: minutes or nil;
      # part_at: minutes at which an awaited part arrives, or nil; spent: minutes since the last step was signed;
      # search: minutes that the diagnosis still takes, or nil.
      # Returns a Scheduling::Job, nil where nothing is left for a hand.
      def job(dossier, clock:, now:, promised: nil, part_at: nil, spent: 0, search: nil)
        @part_at = part_at
        @clock = clock
        @licensed = false
        steps = dossier.decided? ? repair(dossier, now, spent) : search(dossier, search)
        return if steps.empty?

        Job.new(id: dossier.number, name: dossier.record.vehicle_name, promised: promised, steps: steps).freeze
      end

      private

      def piece(phase)
        @catalogue.day_piece(nil, phase)
      end

      def piece_of(step)
        @catalogue.day_piece(step.rule, step.phase)
      end

      # The pre-scan, then as long as the diagnosis takes: minutes, 0 where it stands, nil where nobody can say. After
      # that the customer is asked.
      def search(dossier, minutes)
        steps = []
        unless dossier.log.scanned?
          steps << step(dossier, "scan", "Pre-scan", piece("read")["minutes"], tools(piece("read")), [])
        end
        return steps if minutes&.zero?

        lift = [@hours.named("place", "lift")].reject(&:empty?)
        wanted = [minutes || piece("trace")["minutes"], SOONEST].max
        steps << step(dossier, "trace", "Trace the fault", wanted, lift, steps.map(&:id))
      end

      def repair(dossier, now, spent)
        rows = (dossier.plan.repair + dossier.plan.proof).reject(&:done?)
        @up = false
        made = []
        rows.each_with_index { |row, i| made.concat(pieces(dossier, row, made.last&.id, now, i.zero? ? spent : 0)) }
        made
      end

      # One row: a hand, and what runs by itself after it.
      def pieces(dossier, row, before, now, spent)
        place = place(row.step)
        own = hands(dossier, row, spent)
        first = row.waiting? ? nil : step(dossier, row.id, row.title, own, needs(row.step, place), [before].compact)
        wait = wait(dossier, row, first&.id || before, place, now)
        @up = false if row.step.does.any? { |word| word.start_with?("lowers:") }
        [first, wait].compact.map { |each| late_part(each, row) }
      end

      # Work on the part itself waits for it.
      def late_part(each, row)
        return each unless @part_at && row.step.phase == "work"

        each.dup.tap { |copy| copy.earliest = [copy.earliest, @part_at].max }.freeze
      end

      # A timer of the plan, or what a module does for itself.
      def wait(dossier, row, before, place, now)
        minutes = row.step.wait_minutes || piece_of(row.step)["wait"]
        return unless minutes

        minutes = (row.seconds_left(@clock) / 60.0).ceil if row.waiting? && row.step.wait_minutes
        Step.new(
          id: "#{dossier.number}.#{row.id}.wait",
          job: dossier.number,
          title: "#{row.title}: wait",
          minutes: minutes,
          needs: place,
          after: [before].compact,
          attended: false,
          earliest: row.waiting? ? now : 0,
          fixed: nil
        ).freeze
      end

      def step(dossier, id, title, minutes, needs, after)
        Step.new(
          id: "#{dossier.number}.#{id}",
          job: dossier.number,
          title: title,
          minutes: minutes,
          needs: [person, *needs],
          after: after,
          attended: true,
          earliest: 0,
          fixed: nil
        ).freeze
      end

      # Who may do it: anybody, or who has the licence where nobody else may.
      def person
        return @hours.people unless @licensed

        able = @hours.people("high_voltage")
        able.empty? ? @hours.people : able
      end

      # Everything that a step needs beside its person.
      def needs(step, place)
        @licensed = step.does.intersect?(LICENSED) || signs_for_high_voltage?(step)
        two = piece_of(step)["second_person"] || step.people.to_i > 1
        second = two && @hours.people.size > 1 ? [@hours.people] : []
        place + tools(piece_of(step)) + second
      end

      def signs_for_high_voltage?(step)
        step.cautions.any? { |each| each["id"] == "high_voltage" } && step.names.any? { |name| name["signs"] }
      end

      def tools(piece)
        (piece["tools"] || []).map { |kind| @hours.named("tool", kind) }.reject(&:empty?)
      end

      # On a lift from the step that lifts on, until it is lowered.
      def place(step)
        @up = true if step.does.any? { |word| word.start_with?("lifts:") }
        lifts = @hours.named("place", "lift")
        @up && lifts.any? ? [lifts] : []
      end

      # The workshop's own time, the hours of the chosen repair, or the trade's; less what was spent on it already.
      def hands(dossier, row, spent)
        rule = row.step.rule
        minutes, times = @learned[rule]
        minutes = nil if times.to_i < LEAST
        minutes ||= row.step.phase == "work" ? work_minutes(dossier) : piece_of(row.step)["minutes"]
        [minutes.round - spent, SOONEST].max
      end

      # Hours of the chosen options, shared among the steps of the work.
      def work_minutes(dossier)
        hours = dossier.decisions.sum { |each| (each.choice.repair_hours || each.choice.hours).to_f }
        count = [(dossier.plan.repair + dossier.plan.proof).count { |row| row.step.phase == "work" }, 1].max
        hours.positive? ? (hours * 60 / count) : piece("work")["minutes"]
      end
    end
  end
end
