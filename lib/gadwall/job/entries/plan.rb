# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # The composed plan of the repair, whole: its steps are signed as they stand here, whatever the rules become.
      class Plan < Entry
        KIND = "plan"
        VERSION = 2

        # Version of the rules that composed it.
        def rules
          data["rules"]
        end

        # [{"id" =>, "title" =>, "text" =>, "hold" =>, ...}, ...] as Repair::Step#to_h.
        def steps
          data["steps"]
        end

        # Words of what the hands touch; [] in version 1.
        def touches
          data["touches"] || []
        end

        # Legs of the proof drive as Repair::DriveLegs::Leg#to_entry; nil in version 1.
        def drive
          data["drive"]
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
          list!("drive")
          text!("rules", 40, "the version of the rules")
        end
      end
    end
  end
end
