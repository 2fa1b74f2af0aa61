# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Records a run of a set-up routine: which tool did it, or failed at it. values: routine, tool, result, note,
      # step (id of the plan's step that it was for), code (the negative response that refused it, two hexadecimal
      # digits).
      class RecordSetUp < Act
        private

        def closed
          before_decision
        end

        def check
          required(:routine, "Enter which routine was run.", most: 100)
          required(:tool, "Enter which tool ran it.", most: 100)
          unless text(:code).empty? || text(:code).match?(/\A\h{2}\z/)
            refuse("code", "'#{text(:code)}' is no negative response. Enter its two hexadecimal digits, such as 22.")
          end
          return if Entries::SetUp::RESULTS.include?(values[:result])

          refuse("result", "Choose whether it worked or failed.")
        end

        def entries
          row = {
            "routine" => text(:routine),
            "tool" => text(:tool),
            "result" => values[:result],
            "note" => text(:note),
            "step" => text(:step),
            "code" => text(:code).upcase
          }
          [Entries::SetUp.new(row.reject { |name, value| %w[step code].include?(name) && value.empty? })]
        end
      end
    end
  end
end
