# frozen_string_literal: true

module Gadwall
  module Job
    # Where the hands-on minutes went: tests by what they spoke of, the repair as it was offered, waits as they ran. The
    # minutes of a test are those of its record; what was measured on circuits that turned out sound is called a wrong
    # turn.
    class Effort
      # dossier: Dossier.
      def initialize(dossier)
        @dossier = dossier
        @decided = dossier.decisions.flat_map(&:circuits)
      end

      # [[stage in words, minutes], ...]; stages without any left out.
      def stages
        rows = {
          "Tracing" => tests.sum { |observation| observation.test.minutes },
          "Repair, as offered" => @dossier.decisions.sum { |each| each.choice.hours.to_f * 60 },
          "Waits" => waits,
          "Proof" => proofs.sum { |observation| observation.test.minutes }
        }
        rows.reject { |_, minutes| minutes.zero? }.transform_values(&:round).to_a
      end

      # Minutes on circuits that turned out not to be it; 0 before a decision.
      def wrong_turns
        return 0 if @decided.empty?

        tests.reject { |observation| @decided.include?(observation.circuit.id) }.sum { |each| each.test.minutes }.round
      end

      # What they cost, in the workshop's currency.
      def wrong_turns_cost
        (wrong_turns / 60.0 * @dossier.rate).round
      end

      private

      def seen
        entries = @dossier.log.valid_entries.select { |entry| entry.respond_to?(:test) && entry.evidence? }
        entries.map { |entry| [entry, @dossier.log.observation(entry)] }
      end

      def tests
        seen.reject { |entry, _| entry.after? }.map(&:last)
      end

      def proofs
        @dossier
          .log
          .valid_entries
          .select { |entry| entry.respond_to?(:test) && entry.after? }
          .map { |entry| @dossier.log.observation(entry) }
      end

      def waits
        rows = @dossier.plan ? @dossier.plan.rows : []
        rows.select { |row| row.step.wait_minutes && row.state == "done" }.sum { |row| row.step.wait_minutes }
      end
    end
  end
end
