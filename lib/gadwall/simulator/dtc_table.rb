# frozen_string_literal: true

module Gadwall
  module Simulator
    # Which code a module sets for a claim about a circuit: the standard's code of that circuit with the failure type of
    # the claim; where the standard has none, a number of the manufacturer's range.
    class DtcTable
      MANUFACTURER = "C1%03X" # SAE J2012: C1xxx is the manufacturer's, from memory
      MANUFACTURER_BUS = "U1%03X" # SAE J2012: so is U1xxx, from memory

      def initialize(catalogue)
        @catalogue = catalogue
        @made = {}
      end

      # circuit: Vehicle::System::Circuit; claim: id, or "lost_abs" for a module missed on a bus. Returns a
      # TroubleCodes::CodeWord.
      def word(circuit, claim)
        @made[[circuit.id, claim]] ||= lost(claim) || TroubleCodes::CodeWord.new(code(circuit), failure_type(claim))
      end

      # Id of the module that a claim says is missed ("lost_abs"), or nil.
      def self.missed(claim)
        claim[/\Alost_([a-z]\w*)/, 1] unless claim == "lost_message"
      end

      # What a tool's own list says of a word: [circuit id, claim], or nil. word: TroubleCodes::CodeWord.
      def meaning(word)
        @made.find { |(circuit, _), made| circuit && made.to_s == word.to_s }&.first
      end

      private

      # U01xx of the module that is missed; where the standard names none, a number of the manufacturer's.
      def lost(claim)
        id = DtcTable.missed(claim) or return

        row = @catalogue.chassis_codes.values.find { |each| each["lost"] == id }
        TroubleCodes::CodeWord.new(row ? row["id"] : format(MANUFACTURER_BUS, id.sum % 0xFFF), "87")
      end

      def code(circuit)
        rows = @catalogue.chassis_codes.values.select { |row| (row["circuits"] || []).first == circuit.id }
        found = rows.find { |row| row["claim"] == "any" } || rows.first
        found ? found["id"] : format(MANUFACTURER, circuit.id.sum % 0xFFF)
      end

      def failure_type(claim)
        record = @catalogue.claims[claim]
        (record && record["from"]&.first) || failure_of_any(claim) || "00"
      end

      # A claim that no failure type names alone: the first claim that it may stand for.
      def failure_of_any(claim)
        row = @catalogue.claims.values.find { |each| (each["any_of"] || []).include?(claim) && each["from"]&.any? }
        row && row["from"].first
      end
    end
  end
end
