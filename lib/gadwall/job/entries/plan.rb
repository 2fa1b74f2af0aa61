# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # The composed plan of the repair, whole: its steps are signed as they stand here, whatever the rules become.
      class Plan < Entry
        KIND = "plan"
        VERSION = 1

        # Version of the rules that composed it.
        def rules
          data["rules"]
        end

        # [{"id" =>, "title" =>, "text" =>, "hold" =>, ...}, ...] as Repair::Step#to_h.
        def steps
          data["steps"]
        end

        # {step id => seq of the entry that signed it under an earlier plan}.
        def carried
          data["carried"] || {}
        end

        # Ids of steps that no earlier plan of this job had.
        def added
          data["added"] || []
        end

        private

        def check
          list!("steps", optional: false)
          text!("rules", 40, "the version of the rules")
        end
      end
    end
  end
end
