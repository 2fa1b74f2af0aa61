# frozen_string_literal: true

module Web
  module Pages
    # The steps of the job, with holds and waits.
    class RepairPage < Page
      # A step as it is drawn. look: "done", "open" or "shut"; signed: who and what, in words; seconds_left: nil without
      # wait.
      StepRow =
        Struct.new(
          :id,
          :number,
          :title,
          :text,
          :caution,
          :hold,
          :look,
          :current,
          :signed,
          :asks,
          :start_wait,
          :seconds_left,
          :skippable,
          keyword_init: true
        )

      # now: Time.
      def initialize(dossier, now:, errors: {}, typed: {})
        super(dossier, errors: errors, typed: typed)
        @now = now
      end

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

      # Steps of this plan that an earlier plan of the job did not have.
      def added
        dossier.log.plan&.added || []
      end

      # Set-up routines that were run on this vehicle.
      def set_ups
        dossier.log.of("set_up")
      end

      def rows
        current = plan.next_row&.id
        plan.rows.map { |row| step_row(row, row.id == current) }
      end

      private

      def look_of(row)
        return "done" if row.done?

        row.reachable ? "open" : "shut"
      end

      def step_row(row, current)
        waits = row.step.wait_minutes
        StepRow.new(
          id: row.id,
          number:
            if row.done?
              row.state == "done" ? "✓" : "–"
            else
              row.number
            end,
          title: row.title,
          text: row.step.text,
          caution: row.done? ? nil : row.step.caution,
          hold: row.step.hold,
          look: look_of(row),
          current: current,
          signed: signed(row),
          asks: row.step.asks,
          start_wait: waits && row.started_at.nil? ? waits : nil,
          seconds_left: waits && row.started_at ? row.seconds_left(@now) : nil,
          skippable: !Gadwall::Job::Acts::SkipStep::PROTECTING.include?(row.id)
        )
      end

      def signed(row)
        return unless row.done?
        return "Not needed: #{row.reason} (#{row.signed_by})" if row.state == "not_needed"

        value =
          row.value.to_s.empty? ? "" : ": #{[row.value, row.step.asks && row.step.asks["unit"]].compact.join(" ")}"
        "Signed off by #{row.signed_by}#{value}"
      end
    end
  end
end
