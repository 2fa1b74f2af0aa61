# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Starts the timer of a step. values: step (id).
      class BeginWait < Act
        private

        def closed
          before_decision
        end

        def check
          row = dossier.plan.row(values[:step])
          return if row.step.wait_minutes && row.reachable && row.state == "open"

          refuse(values[:step], "#{row.title}: the timer can be started once, when it is the step's turn.")
        rescue UnknownNameError => error
          refuse("step", error.message)
        end

        def entries
          [Entries::Step.new("step" => values[:step], "state" => "started")]
        end
      end
    end
  end
end
