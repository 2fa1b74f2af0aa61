# frozen_string_literal: true

module Web
  module Pages
    # The log of a job as the trace screen shows it: what was seen, newest first, and under which conditions.
    class LogRows
      Row =
        Struct.new(
          :seq,
          :title,
          :said,
          :bits,
          :doubt,
          :withdrawn,
          :reason,
          :withdrawable,
          :condition,
          keyword_init: true
        )
      # How often a condition showed the fault: words, times caught, times looked.
      Tally = Struct.new(:words, :caught, :looked, keyword_init: true)

      SHOWN = %w[reading finding scan scan_skipped symptoms].freeze
      AS_IT_STANDS = "as it stands"

      # file: Desk::File.
      def initialize(file)
        @file = file
        @assessment = file.standing.assessment
      end

      def rows
        weights = @assessment.weights.to_h { |row| [row.observation.seq, row] }
        entries =
          @file
            .log
            .entries
            .reject { |entry| entry["kind"] == "withdraw" || entry["phase"] == "after" }
            .select { |entry| SHOWN.include?(entry["kind"]) }
        entries.reverse.map { |entry| row(entry, weights[entry["seq"]]) }
      end

      # By condition, once any was noted: what provoked the fault and what did not.
      def conditions
        seen = @assessment.body.observations
        return [] if seen.none?(&:condition)

        seen
          .group_by(&:condition)
          .map do |id, group|
            Tally.new(
              words: id ? Gadwall::Evidence::CONDITIONS.fetch(id) : AS_IT_STANDS,
              looked: group.size,
              caught: group.count { |each| !@assessment.coverage.normal?(each) }
            )
          end
      end

      private

      def row(entry, weight)
        back = @file.log.withdrawal(entry["seq"])
        doubtful = weight && weight.outlier_chance > Gadwall::Diagnosis::Weight::OUTLIER_FROM
        Row.new(
          seq: entry["seq"],
          title: title(entry),
          said: said(entry),
          bits: weight&.bits,
          doubt: doubtful ? Gadwall::Diagnosis::RetestHints.explain(weight.observation) : nil,
          withdrawn: !back.nil?,
          reason: back && back["reason"],
          withdrawable: back.nil?,
          condition: Gadwall::Evidence::CONDITIONS[entry["condition"]]
        )
      end

      def title(entry)
        case entry["kind"]
        when "scan"
          "First scan"
        when "scan_skipped"
          "Scan skipped"
        when "symptoms"
          "Complaint"
        else
          circuit, test = @assessment.system.test(entry["test"])
          "#{circuit.title}: #{test.title}"
        end
      end

      def said(entry)
        case entry["kind"]
        when "scan"
          @file.log.scan(entry).codes.map(&:word).join(", ").then { |codes| codes.empty? ? "no codes" : codes }
        when "scan_skipped"
          entry["reason"]
        when "symptoms"
          (entry["ids"] || [])
            .map { |id| @assessment.system.catalogue.symptoms.dig(id, "text") }
            .join("; ")
            .then { |text| text.empty? ? "no pattern ticked" : text }
        else
          @file.log.observation(entry).typed
        end
      end
    end
  end
end
