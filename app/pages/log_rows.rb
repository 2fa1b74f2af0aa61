# frozen_string_literal: true

module Web
  module Pages
    # The log of a job as the trace screen shows it: what was seen, newest first, and under which conditions.
    class LogRows
      # result: in words; doubt: a hint on a reading that does not fit, or nil; reason: of its withdrawal.
      Row =
        Struct.new(
          :seq,
          :title,
          :result,
          :bits,
          :doubt,
          :withdrawn,
          :reason,
          :withdrawable,
          :condition,
          :by,
          :simulated,
          keyword_init: true
        )
      # How often a condition reproduced the fault: words, times reproduced, times tried.
      Tally = Struct.new(:words, :caught, :tried, keyword_init: true)

      SHOWN = %w[reading finding scan scan_skipped symptoms lamps presence reopen].freeze
      UNDISTURBED = "undisturbed"

      # dossier: Gadwall::Job::Dossier; open: may entries be withdrawn?
      def initialize(dossier, open:)
        @log = dossier.log
        @assessment = dossier.assessment
        @open = open
      end

      def rows
        weights = @assessment.weights.to_h { |row| [row.observation.seq, row] }
        entries = @log.entries.reject { |entry| entry.after? || !SHOWN.include?(entry.kind) }
        entries.reverse.map { |entry| row(entry, weights[entry.seq]) }
      end

      # By condition, once any was noted: what reproduced the fault and what did not.
      def conditions
        seen = @assessment.body.observations
        return [] if seen.none?(&:condition)

        seen
          .group_by(&:condition)
          .map do |id, group|
            Tally.new(
              words: id ? Gadwall::Observations::CONDITIONS.fetch(id) : UNDISTURBED,
              tried: group.size,
              caught: group.count { |each| !@assessment.coverage.normal?(each) }
            )
          end
      end

      private

      def row(entry, weight)
        back = @log.withdrawal(entry.seq)
        doubtful = weight && weight.outlier_chance > Gadwall::Diagnosis::Weight::OUTLIER_FROM
        Row.new(
          seq: entry.seq,
          title: title(entry),
          result: result(entry),
          bits: weight&.bits,
          doubt: doubtful ? Gadwall::Diagnosis::RetestHints.explain(weight.observation) : nil,
          withdrawn: !back.nil?,
          reason: back&.reason,
          withdrawable: @open && back.nil? && entry.withdrawable?,
          condition: Gadwall::Observations::CONDITIONS[entry["condition"]],
          by: entry.by,
          simulated: entry.simulated?
        ).freeze
      end

      TITLES = {
        "scan" => "Pre-scan",
        "scan_skipped" => "No pre-scan",
        "symptoms" => "Complaint",
        "lamps" => "Warning lamps",
        "presence" => "The fault",
        "reopen" => "Diagnosis reopened"
      }.freeze

      def title(entry)
        TITLES.fetch(entry.kind) do
          circuit, test = @assessment.system.test(entry.test)
          "#{circuit.title}: #{test.title}"
        end
      end

      def result(entry)
        case entry.kind
        when "scan"
          list(@log.scan(entry).codes.map(&:word), "no DTCs")
        when "scan_skipped", "reopen"
          entry.reason
        when "lamps"
          lamps(entry)
        when "presence"
          Gadwall::Observations::PRESENCES.fetch(entry.fault)
        when "symptoms"
          list(symptoms(entry), "no symptom selected")
        else
          @log.observation(entry).typed
        end
      end

      def lamps(entry)
        names = @assessment.system.catalogue.lamps
        lit = entry.lit.keys.map { |id| names.dig(id, "short") || id }
        "#{list(lit, "none lit")}#{"; #{entry.out.size} others out" if entry.out.any?}"
      end

      def symptoms(entry)
        entry.ids.map { |id| @assessment.system.catalogue.symptoms.dig(id, "text") || id }
      end

      def list(texts, none)
        texts.empty? ? none : texts.join("; ")
      end
    end
  end
end
