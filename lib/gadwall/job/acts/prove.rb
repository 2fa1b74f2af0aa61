# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # A leg of the proof drive, passed or failed. values: item (id of the leg), result ("pass" or "fail"), ran
      # (monitors whose status says that they ran). An empty list of codes is no pass: a monitor must have run.
      class Prove < Act
        private

        def closed
          before_decision || unfinished
        end

        def unfinished
          "Sign the steps of the repair first: the road test belongs after them." unless dossier.plan.done?
        end

        def check
          leg = dossier.proof.legs.find { |each| each.id == values[:item] }
          return refuse("drive", "Choose a leg of the proof drive.") unless leg
          return refuse("drive", "Choose pass or fail.") unless Entries::Drive::RESULTS.include?(values[:result])

          gate(leg) || monitors(leg)
        end

        # Nothing leaves the yard before its gate is signed.
        def gate(leg)
          open = dossier.plan.proof.find { |row| row.step.phase == "drive" && row.step.protects && !row.done? }
          refuse("drive", "Sign '#{open.title}' first.") if open && !leg.lift
        end

        def monitors(leg)
          missing = leg.proves - ran
          return if values[:result] == "fail" || missing.empty?

          refuse(
            "drive",
            "#{leg.title}: tick each monitor that ran (status or readiness read): #{missing.join("; ")}. " \
              "No DTC alone is no pass."
          )
        end

        def ran
          values[:ran] || []
        end

        def entries
          row = { "item" => values[:item], "result" => values[:result], "ran" => ran }
          [Entries::Drive.new(row.reject { |_, value| value == [] })]
        end
      end
    end
  end
end
