# frozen_string_literal: true

module Gadwall
  module Codes
    # One line with a code in it, as a person types or pastes it, taken apart: word, failure type, status, text.
    module CodeLine
      WORD = /\b[PCBUpcbu][0-3][0-9A-Fa-f]{3}(?:[-:][0-9A-Fa-f]{2})?\b/
      SPN_WORD = /\bspn\W*\d{1,6}\W*fmi\W*\d{1,2}\b/i
      FLASH = /\bflash\W*\d{1,4}\b/i
      STATUS = /\b(current|present|active|pending|history|historic|stored|passive|inactive|intermittent|sporadic)\b/i
      STATUS_WORDS = {
        "current" => "current",
        "present" => "current",
        "active" => "current",
        "pending" => "pending"
      }.freeze

      # Returns a row for CodeReader#read. Raises InputError when no code stands in the line.
      def self.row_of(line, field:)
        code = line[SPN_WORD] || line[FLASH] || line[WORD] or
          raise InputError.new(
                  field: field,
                  given: line,
                  expected: "a DTC such as C0031 or C0031-13 in each line",
                  fix: "Put a remark without a DTC into the complaint."
                )
        rest = line.sub(code, " ")
        status = rest[STATUS]
        byte = rest[/(?:\bstatus\s*(?:0x)?|\A[\s,;]*)([0-9A-Fa-f]{2})\b(?=\s|,|;|\z)/, 1]
        split(code).merge(
          "status" => status ? STATUS_WORDS.fetch(status.downcase, "history") : byte,
          "text" => tidy(status ? rest.sub(STATUS, " ") : rest)
        )
      end

      def self.split(code)
        return { "code" => SPN.parse(code.gsub(/[^0-9a-z]+/i, " ")).text } if SPN.looks_like?(code)

        return { "code" => FlashWord.parse(code.gsub(/[^0-9a-z]+/i, " ")).text } if FlashWord.looks_like?(code)

        word = CodeWord.parse(code.tr(":", "-"))
        { "code" => word.text, "failure_type" => word.failure_type }
      end

      def self.tidy(text)
        text.gsub(/[,;\t ]+/, " ").gsub(/\A[\s:-]+|[\s:-]+\z/, "")
      end
      private_class_method :split, :tidy
    end
  end
end
