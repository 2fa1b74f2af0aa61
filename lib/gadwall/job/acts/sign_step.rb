# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Signs a step of the plan off. values: step (id), value (the figure entered, where it asks for one).
      class SignStep < Act
        private

        def closed
          before_decision
        end

        def check
          row = dossier.plan.row(values[:step])
          why = too_early(row)
          return refuse(values[:step], why) if why

          @value = row.step.figure(values[:value])
        rescue UnknownNameError => error
          refuse("step", error.message)
        rescue InputError => error
          refuse(values[:step], error.message)
        end

        def entries
          [Entries::Step.new("step" => values[:step], "state" => "done", "value" => @value)]
        end

        def too_early(row)
          return "#{row.title} is signed off already." if row.done?
          return "Sign '#{dossier.plan.next_row.title}' first: this step opens after it." unless row.reachable
          return unless row.step.wait_minutes
          return "#{row.title}: start the timer first." unless row.started_at

          left = row.seconds_left(at)
          "#{row.title}: #{left} s still to wait. Sign when the timer shows 0." if left.positive?
        end
      end
    end
  end
end
