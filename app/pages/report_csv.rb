# frozen_string_literal: true

require "csv"

module Web
  module Pages
    # What a job holds as tables for other programs. Cells that a spreadsheet would run as a formula are escaped.
    module ReportCsv
      # dossier: Gadwall::Job::Dossier. Readings and looks, one a row. Returns CSV text.
      def self.evidence(dossier)
        rows =
          dossier
            .log
            .valid_entries
            .select { |entry| entry.respond_to?(:test) && entry.test }
            .map do |entry|
              seen = dossier.log.observation(entry)
              phase = entry.after? ? "after" : "before"
              shown = [seen.circuit.title, seen.test.title, seen.typed, seen.test.unit]
              [entry.seq, entry.at, entry.by, phase, *shown, entry.origin]
            end
        table(%w[entry at by phase circuit test result unit origin], rows)
      end

      # Codes of every scan. Returns CSV text.
      def self.codes(dossier)
        rows =
          dossier
            .log
            .of("scan")
            .flat_map do |entry|
              dossier
                .log
                .scan(entry)
                .codes
                .map do |code|
                  phase = entry.after? ? "after" : "before"
                  [entry.at, phase, code.sender, code.word, code.status, code.text, entry.origin]
                end
            end
        table(%w[at phase module code status text origin], rows)
      end

      def self.table(head, rows)
        CSV.generate { |csv| [head, *rows].each { |row| csv << row.map { |cell| Gadwall::Cells.escape(cell) } } }
      end
      private_class_method :table
    end
  end
end
