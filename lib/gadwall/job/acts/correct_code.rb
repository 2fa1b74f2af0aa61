# frozen_string_literal: true

module Gadwall
  module Job
    module Acts
      # Says what a code of a scan means: the scan is entered again with it, and the earlier one taken back. values:
      # scan (seq), index (of the code in it), circuit, claim.
      class CorrectCode < Act
        private

        def closed
          after_decision
        end

        def check
          return refuse("code", "Choose a DTC of a scan that still counts.") unless scan && index

          TroubleCodes::CodeReader.new(dossier.sheet, dossier.catalogue).read(row)
        rescue InputError => error
          refuse("code", error.message)
        end

        def entries
          codes = scan.codes.each_with_index.map { |code, i| i == index ? row : code }
          reason = "#{row["code"]} read as corrected"
          [
            Entries::Scan.new(scan.data.merge("kind" => "scan", "codes" => codes)),
            Entries::Withdraw.new("entry" => scan.seq, "reason" => reason)
          ]
        end

        def scan
          log.of(Entries::Scan::KIND).find { |entry| entry.seq == values[:scan] }
        end

        def index
          values[:index] if values[:index]&.between?(0, scan.codes.size - 1)
        end

        def row
          said = { "circuit" => text(:circuit), "claim" => text(:claim) }.reject { |_, value| value.empty? }
          scan.codes[index].except("circuit", "claim").merge(said)
        end
      end
    end
  end
end
