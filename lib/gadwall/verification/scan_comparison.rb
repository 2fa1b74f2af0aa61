# frozen_string_literal: true

module Gadwall
  module Verification
    # The last scan against the first: gone, stayed, new, turned to history; modules lost and gained.
    class ScanComparison
      attr_reader :gone, :stayed, :new, :turned_to_history, :modules_lost, :modules_gained

      # before, after: entries of kind "scan" (Hashes with "codes" and "modules").
      def initialize(before, after)
        was = codes(before)
        is = codes(after)
        @gone = (was.keys - is.keys).map { |key| was[key] }
        @new = (is.keys - was.keys).map { |key| is[key] }
        @not_tested = is.values.select { |code| word(code) == "not_tested" }
        both = was.keys & is.keys
        @turned_to_history = both.select { |key| current?(was[key]) && !current?(is[key]) }.map { |key| is[key] }
        @stayed = (both.map { |key| is[key] } - @turned_to_history)
        @modules_lost = answering(before) - answering(after)
        @modules_gained = answering(after) - answering(before)
        freeze
      end

      # Codes of the last scan whose monitors have not run since they were cleared: neither a fault nor a pass.
      attr_reader :not_tested

      # What became of the codes and modules, in words.
      def sentence
        parts = ["#{gone.size} gone", "#{stayed.size} stayed", "#{new.size} new"]
        parts << "#{turned_to_history.size} turned to history"
        parts << "#{not_tested.size} not tested since clearing" if not_tested.any?
        parts << "#{modules_lost.size} modules lost (#{modules_lost.join(", ")})" if modules_lost.any?
        parts << "#{modules_gained.size} modules gained" if modules_gained.any?
        parts.join(", ")
      end

      # Nothing present now, nothing new, nobody lost, and nothing left untested.
      def clean?
        new.empty? && modules_lost.empty? && not_tested.empty? &&
          (stayed + turned_to_history).none? { |code| current?(code) }
      end

      private

      def codes(entry)
        (entry["codes"] || []).to_h { |code| [[code["module"], TroubleCodes.word_of(code).to_s], code] }
      end

      def current?(code)
        [nil, "current"].include?(word(code))
      end

      def word(code)
        TroubleCodes::StatusByte.word(code["status"])
      end

      def answering(entry)
        (entry["modules"] || []).reject { |row| row["answered"] == false }.map { |row| row["name"] }
      end
    end
  end
end
