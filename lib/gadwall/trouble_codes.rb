# frozen_string_literal: true

module Gadwall
  # Trouble codes: words, failure types, status, and what they claim.
  module TroubleCodes
    # The word of a code: a standard's (CodeWord), a heavy vehicle's (SPN), one counted from a lamp (FlashWord), a
    # manufacturer's number (MakerWord), or none where there is only a text (TextWord). row: {"code", "failure_type",
    # "text"}. Raises InputError.
    def self.word_of(row, field: "code")
      return SPN.parse(row["code"], field: field) if SPN.looks_like?(row["code"])
      return FlashWord.parse(row["code"], field: field) if FlashWord.looks_like?(row["code"])

      return TextWord.new if text_only?(row)
      return MakerWord.parse(row["code"]) if MakerWord.looks_like?(row["code"])

      CodeWord.parse([row["code"], row["failure_type"]].compact.reject(&:empty?).join("-"), field: field)
    end

    def self.text_only?(row)
      [nil, "", TextWord::TEXT].include?(row["code"]) && row["text"].to_s.match?(/\p{L}{3}/)
    end
    private_class_method :text_only?
  end
end
