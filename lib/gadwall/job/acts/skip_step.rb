# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Marks a step as not needed, with a reason. values: step (id), reason. A step that makes energy safe is never
      # skipped.
      class SkipStep < Act
        # Steps of plans before rules "3" that keep somebody from harm; since then the plan itself says so.
        FIRST_PROTECTING = %w[
          depressurise
          pump_off
          hv_off
          hv_wait
          hv_zero
          hv_on
          lift
          service_position
          torque
          bleed
          pedal
        ].freeze

        # Is a step never left out? step: Repair::Step.
        def self.protects?(step)
          step.protects || FIRST_PROTECTING.include?(step.id)
        end

        private

        def closed
          before_decision
        end

        def check
          row = dossier.plan.row(values[:step])
          return refuse(values[:step], "#{row.title} is signed off already.") if row.done?
          return refuse(values[:step], "Sign the hold before it first.") unless row.reachable
          if SkipStep.protects?(row.step)
            return refuse(values[:step], "#{row.title} protects people: it cannot be left out.")
          end

          required(:reason, "Enter why the step is not needed.")
          @errors[values[:step]] = @errors.delete("reason") if @errors.key?("reason")
        rescue UnknownNameError => error
          refuse("step", error.message)
        end

        def entries
          [Entries::Step.new("step" => values[:step], "state" => "not_needed", "reason" => text(:reason))]
        end
      end
    end
  end
end
