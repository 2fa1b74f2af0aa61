# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # Texts of codes as tools shorten them, spelled out (data/codes/abbreviations.yml): 'RR WHL SPD SNSR CKT' is read as
    # 'RR wheel speed sensor circuit'.
    class Abbreviations
      # At the end of a text: what tools print there of its status.
      STATUS = /[\s,;(]+(act(?:ive)?|pres(?:ent)?|hist(?:ory)?|stor(?:ed)?|sto|pend(?:ing)?)\)?\s*\z/i
      WORDS = { "a" => "current", "pr" => "current", "h" => "history", "s" => "history", "pe" => "pending" }.freeze

      # The status that ends a text, as a word of StatusByte, or nil.
      def self.status_in(text)
        word = text[STATUS, 1]&.downcase or return
        WORDS.find { |start, _| word.start_with?(start) }&.last
      end

      def initialize(catalogue)
        @rows = catalogue.abbreviations
      end

      # text: of a code. Returns it in the words of the tables.
      def spelled_out(text)
        @rows.reduce(text.tr("_", " ")) { |spelled, (short, means)| spelled.gsub(short, means) }
      end
    end
  end
end
