# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Takes an entry back, with a reason. values: entry (seq), reason. After the decision only what was entered after
      # it, until the hand-over.
      class Withdraw < Act
        private

        def closed
          after_handover
        end

        def check
          return refuse("entry", "Choose an entry of this job that still counts.") unless entry&.withdrawable?
          return refuse(reason_field, after_decision) if dossier.decided? && entry.evidence?

          required(:reason, "Enter what was wrong with it: the entry stays in the log with your reason.")
          @errors[reason_field] = @errors.delete("reason") if @errors.key?("reason")
        end

        def entries
          [Entries::Withdraw.new("entry" => entry.seq, "reason" => text(:reason))]
        end

        def entry
          log.valid_entries.find { |each| each.seq == values[:entry] }
        end

        # Each entry of the log has a field of its own on the page.
        def reason_field
          "withdraw-#{values[:entry]}"
        end
      end
    end
  end
end
