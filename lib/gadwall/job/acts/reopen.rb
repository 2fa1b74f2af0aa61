# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Opens the diagnosis again after a decision, with a reason. What was signed stays in the log; a new decision
      # carries over the steps that are done. values: reason.
      class Reopen < Act
        private

        def closed
          before_decision
        end

        def check
          required(:reason, "Enter why the diagnosis is opened again: it stays in the log beside what was signed.")
        end

        def entries
          [Entries::Reopen.new("reason" => text(:reason))]
        end
      end
    end
  end
end
