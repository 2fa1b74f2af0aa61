# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # The whole proof drive under one signature: every leg that was still open passed, but for what failed. values:
      # failed (ids of legs); not_run (monitors whose status does not say that they ran: their legs stay open); read
      # ("1" once the status of the monitors was read). An empty list of codes is no pass: a monitor must have run.
      class SignDrive < Act
        private

        def closed
          before_drive
        end

        def check
          @legs = dossier.proof.open_legs
          return refuse("drive", "Every leg of the proof drive has passed already.") if @legs.empty?
          return if unknown || gate

          unless values[:read] == "1"
            return refuse("drive", "Tick that the status of the monitors was read. No DTC alone is no pass.")
          end

          refuse("drive", "Nothing of this drive is proven: no monitor ran, and no leg failed.") if results.empty?
        end

        def unknown
          wrong = failed - @legs.map(&:id)
          wrong += not_run - @legs.flat_map(&:proves)
          return if wrong.empty?

          refuse("drive", "'#{wrong.first}' is no open leg and no monitor of this drive. Load the page again.")
        end

        # Nothing leaves the yard before its gate is signed.
        def gate
          open = dossier.proof.open_gate.first
          refuse("drive", "Sign '#{open.title}' first.") if open && @legs.any? { |leg| !leg.lift }
        end

        def failed
          values[:failed] || []
        end

        def not_run
          values[:not_run] || []
        end

        # [[leg, "pass" or "fail"], ...] of those that came to an end.
        def results
          @legs
            .reject { |leg| !failed.include?(leg.id) && leg.proves.intersect?(not_run) }
            .map { |leg| [leg, failed.include?(leg.id) ? "fail" : "pass"] }
        end

        def entries
          driven = dossier.proof.driven_by_log
          results.map do |leg, result|
            row = { "item" => leg.id, "result" => result, "ran" => leg.proves - not_run, "by_log" => driven[leg.id] }
            Entries::Drive.new(row.compact.reject { |_, each| each == [] })
          end
        end
      end
    end
  end
end
