# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # A step of the plan: its wait begun, signed, or not needed with a reason.
      class Step < Entry
        KIND = "step"
        VERSION = 1

        STATES = %w[started done not_needed].freeze

        # Id of the step.
        def step
          data["step"]
        end

        # "started", "done" or "not_needed".
        def state
          data["state"]
        end

        # The figure that was entered, or nil.
        def value
          data["value"]
        end

        # Why it was not needed, or nil.
        def reason
          data["reason"]
        end

        private

        def check
          text!("step", 100, "the step of the plan")
          one_of!("state", STATES)
          text!("reason", 1000, "why the step is not needed") if state == "not_needed"
        end
      end
    end
  end
end
