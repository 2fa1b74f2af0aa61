# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # A step of the plan: its wait begun, signed, or not needed with a reason.
      class Step < Entry
        KIND = "step"
        VERSION = 2

        STATES = %w[started done not_needed].freeze

        # Id of the step.
        def step
          data["step"]
        end

        # "started", "done" or "not_needed".
        def state
          data["state"]
        end

        # The figure that was entered, or nil; of steps that asked for one only (version 1).
        def value
          data["value"]
        end

        # What was entered: {id => text}.
        def values
          data["values"] || (value.to_s.empty? ? {} : { "value" => value })
        end

        # Ids of what was ticked.
        def ticks
          data["ticks"] || []
        end

        # Why it was not needed, or nil.
        def reason
          data["reason"]
        end

        private

        def check
          text!("step", 100, "the step of the plan")
          one_of!("state", STATES)
          unless data["values"].nil? || data["values"].is_a?(Hash)
            fault!("values", data["values"], "an object by figure")
          end
          list!("ticks")
          text!("reason", 1000, "why the step is not needed") if state == "not_needed"
        end
      end
    end
  end
end
