# frozen_string_literal: true

module Gadwall
  # Trouble codes: words, failure types, status, and what they claim.
  module Codes
    # The word of a code: a standard's (CodeWord), a heavy vehicle's (SPN) or one counted from a lamp (FlashWord).
    # row: {"code", "failure_type"}. Raises InputError.
    def self.word_of(row, field: "code")
      return SPN.parse(row["code"], field: field) if SPN.looks_like?(row["code"])
      return FlashWord.parse(row["code"], field: field) if FlashWord.looks_like?(row["code"])

      CodeWord.parse([row["code"], row["failure_type"]].compact.reject(&:empty?).join("-"), field: field)
    end
  end
end
