# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # One line with a code in it, as a person types or pastes it, taken apart: word, failure type, status, text.
    module CodeLine
      WORD = /\b[PCBUpcbu][0-3][0-9A-Fa-f]{3}(?:[-:][0-9A-Fa-f]{2})?\b/
      SPN_WORD = /\bspn\W*\d{1,6}\W*fmi\W*\d{1,2}\b/i
      FLASH = /\bflash\W*\d{1,4}\b/i
      # Not the current that is too high, nor the kind of a sensor.
      STATUS =
        /
        \b(current(?!\ (?:too|above|below|high|low|limit|draw|consumption|exceed|out\ of))|present|static|
        (?:active|passive)(?!\ (?:wheel\ )?(?:speed\ )?sensor)|pending|history|historic|stored|inactive|intermittent|
        sporadic|not\ (?:yet\ )?tested|test\ not\ completed?|passed)\b
      /ix
      STATUS_WORDS = {
        "current" => "current",
        "present" => "current",
        "active" => "current",
        "static" => "current",
        "pending" => "pending",
        "not tested" => "not_tested",
        "not yet tested" => "not_tested",
        "test not complete" => "not_tested",
        "test not completed" => "not_tested",
        "passed" => "passed"
      }.freeze

      # Returns a row for CodeReader#read: a standard's code wherever it stands in the line, a manufacturer's number at
      # its head, or the text alone. Raises InputError for a line without a word.
      def self.row_of(line, field:)
        code = line[SPN_WORD] || line[FLASH] || line[WORD]
        return without_word(line, field) unless code

        rest = line.sub(code, " ")
        status = rest[STATUS]
        byte = rest[/(?:\bstatus\s*(?:0x)?|\A[\s,;]*)([0-9A-Fa-f]{2})\b(?=\s|,|;|\z)/, 1]
        split(code).merge(
          "status" => status ? STATUS_WORDS.fetch(status.downcase, "history") : byte,
          "text" => tidy(status ? rest.sub(STATUS, " ") : rest)
        )
      end

      def self.without_word(line, field)
        number = line[MakerWord::HEAD]
        rest = number ? line.sub(number, " ") : line
        status = rest[STATUS]
        text = tidy(status ? rest.sub(STATUS, " ") : rest)
        unless number || text.match?(/\p{L}{3}/)
          raise InputError.new(
                  field: field,
                  given: line,
                  expected: "a DTC such as C0031 or C0031-13, a manufacturer's number, or the text of the DTC",
                  fix: "Type one DTC in each line, as the scan tool prints it."
                )
        end
        {
          "code" => number ? MakerWord.parse(number.sub(/[,;:]\z/, "")).text : TextWord::TEXT,
          "failure_type" => nil,
          "status" => status && STATUS_WORDS.fetch(status.downcase, "history"),
          "text" => text
        }
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
      private_class_method :without_word, :split, :tidy
    end
  end
end
