# frozen_string_literal: true

module Gadwall
  module Repair
    # A composed plan. rules: version of the rule base; touches: words of what hands touch; steps: Array of Step in the
    # order of the work; drive: Array of DriveLegs::Leg. Frozen.
    Plan =
      Struct.new(:rules, :touches, :steps, :drive, keyword_init: true) do
        # The set-up chain: steps whose run is recorded with its tool.
        def set_up
          steps.select(&:set_up?)
        end

        # What it brings along beside the repair itself, for the comparison of options: words such as "bleeds:brakes".
        def brings
          verbs = %w[bleeds write learn match test near zero lifts opens watch]
          words = touches + steps.flat_map(&:does)
          words.select { |word| verbs.include?(word.split(":").first) }.uniq
        end

        # Minutes of its waits.
        def wait_minutes
          steps.sum { |step| step.wait_minutes.to_i }
        end

        # Minutes of hands on it. catalogue: Knowledge::Catalogue, which knows how long a step takes.
        def hands_minutes(catalogue)
          pieces(catalogue).sum { |piece| piece["minutes"] }
        end

        # Minutes of hands beyond what the hours of a repair cover.
        def minutes_beyond_repair(catalogue)
          pieces(catalogue).sum { |piece| piece["in_repair_hours"] ? 0 : piece["minutes"] }
        end

        # As of `bin/gadwall plan`.
        def to_json_hash
          {
            rules: rules,
            touches: touches,
            steps: steps.map { |step| step_json(step) },
            set_up: set_up.map { |step| run_json(step) },
            drive: drive.map { |leg| leg_json(leg) }
          }
        end

        private

        def pieces(catalogue)
          steps.map { |step| catalogue.day_piece(step.rule, step.phase) }
        end

        def step_json(step)
          {
            id: step.id,
            phase: step.phase,
            title: step.title,
            text: step.text,
            why: step.why,
            does: step.does,
            hold: step.hold,
            wait_minutes: step.wait_minutes,
            after: step.after,
            asks: step.asks,
            names: step.names,
            ticks: step.ticks,
            compare: step.compare,
            conditions: step.conditions,
            cautions: step.cautions.map { |each| each["id"] },
            because: step.because,
            protects: step.protects,
            school: step.school,
            source: step.source
          }.compact
        end

        # Standing legs have no speed and no distance.
        def leg_json(leg)
          leg.to_h.merge(speed_km_h: leg.speed_km_h || [0, 0], distance_m: leg.distance_m || 0)
        end

        def run_json(step)
          { id: step.id, because: step.because.join(", "), conditions: step.conditions, after: step.after }
        end
      end
  end
end
