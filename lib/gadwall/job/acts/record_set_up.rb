# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Records a run of a set-up routine: which tool did it, or failed at it. values: routine, tool, result, note.
      class RecordSetUp < Act
        private

        def closed
          before_decision
        end

        def check
          required(:routine, "Enter which routine was run.", most: 100)
          required(:tool, "Enter which tool ran it.", most: 100)
          return if Entries::SetUp::RESULTS.include?(values[:result])

          refuse("result", "Choose whether it worked or failed.")
        end

        def entries
          row = {
            "routine" => text(:routine),
            "tool" => text(:tool),
            "result" => values[:result],
            "note" => text(:note)
          }
          [Entries::SetUp.new(row)]
        end
      end
    end
  end
end
