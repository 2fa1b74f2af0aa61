# frozen_string_literal: true

require "csv"

module Gadwall
  module TroubleCodes
    # A list of codes as a tool's report prints it: a table with a header (module, code, status, text in any order), or
    # free text with codes in it, modules as headings.
    class CodeList
      Row = Struct.new(:module_name, :row, :line, keyword_init: true)

      COLUMNS = {
        "module" => /\A(?:module|control unit|ecu|system|unit)\b/i,
        "code" => /\A(?:code|dtc|fault code|trouble code)\b/i,
        "status" => /\A(?:status|state)\b/i,
        "text" => /\A(?:text|description|meaning|fault|message)\b/i,
        "failure_type" => /\A(?:failure type|ftb|symptom byte)\b/i
      }.freeze
      MOST_LINES = 20_000

      # text: the whole list. Returns Array of Row in file order. Raises InputError that names line and column.
      def self.read(text)
        new(text).rows
      end

      def initialize(text)
        @lines = text.dup.force_encoding("UTF-8").scrub("?").delete_prefix("\uFEFF").split(TextLines::ENDS, -1)
        if @lines.size > MOST_LINES
          raise InputError.new(
                  field: "line #{MOST_LINES + 1}, column 1",
                  given: "#{@lines.size} lines",
                  expected: "a code list of at most #{MOST_LINES} lines"
                )
        end
      end

      # Array of Row in file order. Raises InputError that names line and column.
      def rows
        head = @lines.index { |line| !line.strip.empty? && !line.start_with?("#") }
        unless head
          raise InputError.new(
                  field: "line 1, column 1",
                  given: "",
                  expected: "a DTC list: a table with a header, or lines with DTCs"
                )
        end

        columns = columns_of(@lines[head])
        found = columns ? table(head, columns) : free_text
        return found if found.any? || columns

        raise InputError.new(
                field: "line #{head + 1}, column 1",
                given: @lines[head][0, 40],
                expected: "a DTC such as C0031 or C0031-13 somewhere in the text"
              )
      end

      private

      def separator(line)
        [",", ";", "\t"].max_by { |mark| line.count(mark) }
      end

      # {name => index} where the line is a header with a column for codes.
      def columns_of(line)
        names = line.split(separator(line)).map { |name| name.delete('"').strip }
        found =
          COLUMNS
            .filter_map { |key, pattern| (index = names.index { |name| name.match?(pattern) }) && [key, index] }
            .to_h
        found if found.key?("code") && names.none? { |name| name.match?(/\A#{CodeLine::WORD}/o) }
      end

      def table(head, columns)
        mark = separator(@lines[head])
        @lines
          .each_with_index
          .drop(head + 1)
          .filter_map do |line, i|
            next if line.strip.empty? || line.start_with?("#")

            table_row(line, i + 1, mark, columns)
          end
      end

      def table_row(line, number, mark, columns)
        cells = cells(line, number, mark)
        given = columns.transform_values { |index| cells[index].to_s.strip }
        return if given["code"].empty? && given["text"].to_s.empty?

        word =
          TroubleCodes.word_of(
            {
              "code" => given["code"].sub(/\A\$?/, "").tr(" ", ""),
              "failure_type" => given["failure_type"],
              "text" => given["text"]
            },
            field: "line #{number}, column #{Cells.column(line, mark, columns["code"])}"
          )
        Row.new(
          module_name: given["module"].to_s,
          line: number,
          row: {
            "code" => word.is_a?(CodeWord) ? word.text : word.to_s,
            "failure_type" => word.failure_type,
            "status" => status(given["status"].to_s),
            "text" => given["text"].to_s
          }
        ).freeze
      end

      def cells(line, number, mark)
        CSV.parse_line(line, col_sep: mark, liberal_parsing: true) || []
      rescue CSV::MalformedCSVError
        raise InputError.new(
                field: "line #{number}, column 1",
                given: line[0, 40],
                expected: "cells separated by '#{mark == "\t" ? "tab" : mark}', quotes closed"
              )
      end

      # A word or a byte as people write them; nil for what is neither.
      def status(text)
        return text.delete_prefix("0x").upcase if text.match?(/\A(?:0x)?[0-9A-Fa-f]{2}\z/)

        word = text[CodeLine::STATUS] or return nil
        CodeLine::STATUS_WORDS.fetch(word.downcase, "history")
      end

      # A manufacturer's number with a text behind it.
      def numbered?(line)
        number = line[MakerWord::HEAD]
        !number.nil? && line.sub(number, "").scan(/\p{L}{3,}/).size >= 2
      end

      # A line without a code that ends in a colon, or names a module, is a heading.
      def free_text
        heading = ""
        @lines.each_with_index.filter_map do |line, i|
          if line.match?(CodeLine::WORD) || line.match?(CodeLine::SPN_WORD) || numbered?(line)
            Row.new(
              module_name: heading,
              row: CodeLine.row_of(line, field: "line #{i + 1}, column 1"),
              line: i + 1
            ).freeze
          else
            heading = line.strip.delete_suffix(":").strip[0, 80] if line.strip.end_with?(":")
            nil
          end
        end
      end
    end
  end
end
