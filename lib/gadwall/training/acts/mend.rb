# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # Something mended by hand: what the composed plan would make safe must have been. place: "circuit/place"; option:
      # id.
      # As of Act.
      class Mend < Act
        def perform
          work = stand.repairs.work(given["place"].to_s, given["option"])
          missing = left_out(work.plan)
          return stand.ends(missing) if missing

          stand.spend(*stand.repairs.cost(work))
          say(stand.repairs.mend(work, at: stand.done.size))
        end

        private

        # Id of the first danger that the plan takes away and nobody did; nil where all was made safe.
        def left_out(plan)
          needed = plan.steps.select { |step| step.phase == "make_safe" }.flat_map(&:does)
          rows = system.catalogue.dangers.values.select { |row| needed.include?(row["word"]) }
          rows.find { |row| !stand.safe?(row["word"]) }&.fetch("id")
        end
      end
    end
  end
end
