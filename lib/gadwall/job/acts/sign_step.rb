# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Signs a step of the plan off. values: step (id); figures ({id => text}, what it asks for); ticks (ids); tool,
      # before, after (of a set-up routine: who ran it, its numbers before and after); value: the figure of a step that
      # asks for one only.
      class SignStep < Act
        private

        def closed
          before_decision
        end

        def check
          row = dossier.plan.row(values[:step])
          why = too_early(row)
          return refuse(values[:step], why) if why
          return refuse(values[:step], "Enter which tool ran it.") if row.step.set_up? && text(:tool).empty?

          @ticks = values[:ticks] || []
          @entered = row.step.entered(figures(row.step), ticked: @ticks)
          @step = row.step
        rescue UnknownNameError => error
          refuse("step", error.message)
        rescue InputError => error
          refuse(values[:step], error.message)
        end

        def entries
          entry = { "version" => 2, "step" => @step.id, "state" => "done", "values" => @entered, "ticks" => @ticks }
          signed = Entries::Step.new(entry.reject { |_, value| value.is_a?(Enumerable) && value.empty? })
          @step.set_up? ? [run, signed] : [signed]
        end

        # Its run, beside its signature.
        def run
          Entries::SetUp.new(
            {
              "step" => @step.id,
              "routine" => @step.title[0, 100],
              "tool" => text(:tool),
              "result" => "worked",
              "before" => optional(:before),
              "after" => optional(:after)
            }.compact
          )
        end

        def optional(name)
          text(name).empty? ? nil : text(name)
        end

        def figures(step)
          given = values[:figures] || {}
          return given unless step.asks.size == 1 && given.empty? && values[:value]

          { step.asks.first["id"] => values[:value] }
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
