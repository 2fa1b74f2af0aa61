# frozen_string_literal: true

module Web
  module Pages
    # The repair, one step at a time: the step at hand large, what follows in grey, all of it along a spine of phases.
    class RepairPage < Page
      # A step on the spine. look: "done", "open" or "shut"; mark: its number or what became of it.
      Stop = Struct.new(:id, :title, :mark, :look, :hold, :here, :waiting, keyword_init: true)
      # A phase of the spine, with its Stops.
      Phase =
        Struct.new(:id, :name, :stops, keyword_init: true) do
          # Is every step of it done?
          def done?
            stops.all? { |stop| stop.look == "done" }
          end

          # Is the step on show in it?
          def here?
            stops.any?(&:here)
          end
        end
      # A figure to be entered. high, low: limits in words; typed: text; big: is it the only one?
      Ask = Struct.new(:id, :label, :unit, :limits, :of, :typed, keyword_init: true)
      # A line of a match card: what was typed of old, new and why.
      Line = Struct.new(:id, :label, :needed, :old, :new, :reason, keyword_init: true)
      NAMES = {
        "read" => "Read out",
        "match" => "Match parts",
        "save" => "Save",
        "make_safe" => "Make safe",
        "open" => "Open",
        "work" => "Repair",
        "close" => "Close",
        "energy_back" => "Power back",
        "fluid" => "Fluid",
        "write" => "Write",
        "clear" => "Clear",
        "learn" => "Learn",
        "end_test" => "Test",
        "scan" => "Clear DTCs",
        nil => "Steps"
      }.freeze
      OF = { "maker" => "manufacturer", "measured" => "measured", "set" => "set" }.freeze
      AHEAD = 4 # steps that are shown in grey

      # now: Time; shown: id of the step to be shown, or nil for the one at hand.
      def initialize(dossier, now:, preferences:, shown: nil, errors: {}, typed: {}, tools: [])
        super(dossier, errors: errors, typed: typed)
        @now = now
        @preferences = preferences
        @asked = shown
        @tools = tools
      end

      # What the workshop's tools could do on such a vehicle: Array of Store::SetUpStore::Known.
      attr_reader :tools

      def stage
        "repair"
      end

      # Gadwall::Repair::Progress, or nil before a repair is authorised.
      def plan
        dossier.plan
      end

      def done?
        plan.done?
      end

      # "12 of 31"
      def progress
        "#{plan.done_count} of #{plan.repair.size}"
      end

      # Phases in the order of the work; one that comes again stands again.
      def phases
        plan
          .repair
          .chunk_while { |one, other| one.step.phase == other.step.phase }
          .map do |rows|
            phase = rows.first.step.phase
            Phase.new(id: phase, name: NAMES.fetch(phase, phase), stops: rows.map { |row| stop(row) })
          end
      end

      # The Progress::Row on show, or nil once all are done.
      def row
        return @row if defined?(@row)

        named = @asked && plan.repair.find { |each| each.id == @asked }
        at_hand = plan.next_row
        @row = named || (at_hand if at_hand && plan.repair.include?(at_hand))
      end

      def step
        row.step
      end

      # What the trace left so that the step on show would bring about: sentences, [] for a step that is to be done.
      def so_already
        plan.standing ? plan.standing.so_already.fetch(row.id, []) : []
      end

      # "open", "done" or "shut".
      def look
        look_of(row)
      end

      # Is its timer still to be started? Minutes, or nil.
      def start_wait
        step.wait_minutes if step.wait_minutes && row.started_at.nil?
      end

      def seconds_left
        row.seconds_left(@now) if step.wait_minutes && row.started_at
      end

      def skippable?
        !Gadwall::Job::Acts::SkipStep.protects?(step)
      end

      # Array of Ask.
      def asks
        step.asks.map do |ask|
          Ask.new(
            id: ask["id"],
            label: ask["label"],
            unit: ask["unit"],
            limits: Gadwall::Repair::Figures.limits(ask).sub(" #{ask["unit"]}", "").delete_prefix("a number from "),
            of: OF[ask["of"]],
            typed: figure(ask["id"])
          )
        end
      end

      # The ways that are taught for this step, the stricter first; [] where there is one.
      def ways
        school = step.school
        school ? [school["chosen"], *school["others"]] : []
      end

      # May a figure differ from another, with a reason?
      def reason_asked?
        step.asks.any? { |ask| ask["near"] }
      end

      # Array of Line.
      def compare
        step.compare.map do |line|
          id = line["id"]
          Line.new(
            id: id,
            label: line["label"],
            needed: line["needed"],
            old: figure("#{id}.old"),
            new: figure("#{id}.new"),
            reason: figure("#{id}.reason")
          )
        end
      end

      # Ticks and conditions: [[id, label, ticked?], ...].
      def ticks
        step.to_tick.map { |id, label| [id, label, (typed["ticks"] || []).include?(id)] }
      end

      # What was typed for a figure or name before it was refused.
      def figure(id)
        (typed["figures"] || {})[id]
      end

      # What follows: titles.
      def ahead
        rows = plan.repair
        rows.drop(rows.index(row) + 1).reject(&:done?).first(AHEAD).map(&:title)
      end

      # What was signed of it, in words.
      def signed
        return unless row.done?
        return "Not needed: #{row.reason} (#{row.signed_by})" if row.state == "not_needed"

        "Signed off by #{row.signed_by}#{": #{row.entered(@preferences)}" unless row.entered.empty?}"
      end

      # Why this step is in the plan, in words.
      def because
        step.because.reject { |word| word == "always" }.map { |word| word.sub(":", " ").tr("_", " ") }.join(", ")
      end

      # Titles of steps of this plan that an earlier plan of the job did not have.
      def added
        dossier.log.plan&.added || []
      end

      # Set-up routines that were run on this vehicle: Array of Entries::SetUp.
      def set_ups
        dossier.log.of("set_up")
      end

      # A negative response in words, with what it asks for. code: "22".
      def refusal(code)
        [catalogue.refusal(code), catalogue.negative_responses.dig(code, "asks")].compact.join(". ")
      end

      private

      def stop(each)
        Stop.new(
          id: each.id,
          title: each.title,
          mark:
            if each.done?
              each.state == "done" ? "✓" : "–"
            else
              each.number
            end,
          look: look_of(each),
          hold: each.step.hold,
          here: row && each.id == row.id,
          waiting: each.waiting? && each.ready_at
        )
      end

      def look_of(each)
        return "done" if each.done?

        each.reachable ? "open" : "shut"
      end
    end
  end
end
