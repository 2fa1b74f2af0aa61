# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # What a log of live data, taken on the proof drive, showed of its legs.
      class DriveLog < Entry
        KIND = "drive_log"
        VERSION = 1

        # Name of the file.
        def name
          data["name"]
        end

        # What it shows of each leg that it can show: Array of {"leg" => id, "driven" => true or false, "said" =>
        # sentence}.
        def legs
          data["legs"] || []
        end

        # What is wrong in it: sentences.
        def findings
          data["findings"] || []
        end

        private

        def check
          text!("name", 255, "the name of the file")
          list!("legs")
          list!("findings")
          legs.each { |row| fault!("legs", row, "a leg with driven and said") unless leg?(row) }
        end

        def leg?(row)
          row.is_a?(Hash) && row["leg"].is_a?(String) && row["said"].is_a?(String) &&
            [true, false].include?(row["driven"])
        end
      end
    end
  end
end
