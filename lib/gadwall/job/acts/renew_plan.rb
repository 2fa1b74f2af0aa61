# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Composes the plan again by the rules of today, for what was decided. What is signed is carried over.
      class RenewPlan < Act
        private

        def closed
          before_decision || unchanged
        end

        def unchanged
          return if log.plan && log.plan.rules != Repair::Composer.rules(dossier.catalogue)

          "The plan of #{dossier.number} is by the rules of today already."
        end

        def entries
          [PlanEntry.of(dossier, dossier.decisions)]
        rescue Repair::UnsoundPlanError => error
          refuse("plan", error.message)
          []
        end
      end
    end
  end
end
