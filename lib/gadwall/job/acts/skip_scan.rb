# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Goes on without a pre-scan. values: reason.
      class SkipScan < Act
        private

        def closed
          after_decision
        end

        def check
          required(:reason, "Enter why no scan is made: without it nobody can tell what the work caused.")
        end

        def entries
          [Entries::ScanSkipped.new("reason" => text(:reason))]
        end
      end
    end
  end
end
