# frozen_string_literal: true

require "json"
require "stringio"

module Gadwall
  module Signals
    # Reads a capture from CSV in the dialects of docs formats section 1: names in a header row, units in brackets
    # behind them or in a row of their own; comma, semicolon or tab; a decimal comma where the separator is not one; a
    # byte-order mark; CRLF; comment lines; uneven sampling. Line by line: nothing is kept but the numbers.
    class CsvCapture
      TIME_SCALES = {
        "s" => 1.0,
        "sec" => 1.0,
        "seconds" => 1.0,
        "ms" => 1e-3,
        "us" => 1e-6,
        "µs" => 1e-6,
        "μs" => 1e-6,
        "ns" => 1e-9,
        "min" => 60.0
      }.freeze
      VALUE_SCALES = {
        "v" => ["V", 1.0],
        "volt" => ["V", 1.0],
        "volts" => ["V", 1.0],
        "mv" => ["V", 1e-3],
        "a" => ["A", 1.0],
        "amp" => ["A", 1.0],
        "amps" => ["A", 1.0],
        "ampere" => ["A", 1.0],
        "amperes" => ["A", 1.0],
        "ma" => ["A", 1e-3],
        "bar" => ["bar", 1.0],
        "kpa" => ["bar", 0.01],
        "mpa" => ["bar", 10.0],
        "psi" => ["bar", 0.06894757]
      }.freeze
      # where no unit stands, the end of the name may be one
      NAMED = /(?:\A|_)(volts?|mv|amperes?|amps?|ma|bar|kpa|mpa|psi)\z/i
      NAMED_TIME = /_(s|ms|us|ns|min)\z/i
      TIME_NAME = /\A(?:time|t|x|second|zeit|timestamp)\b/i
      MOST = 1e12 # no instrument shows more
      LEAST_S = 1e-9 # no scope samples faster
      NUMBER = /\A\s*[-+]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][-+]?\d+)?\s*\z/
      MOST_COLUMNS = 64

      # io: answers gets and read. Returns a Capture. Raises InputError that names line and column.
      def self.read(io)
        new.read(io)
      end

      def initialize
        @time = []
        @number = 0
      end

      BLOCK_BYTES = 1 << 18

      # io: answers gets and read. Returns a Capture. Raises InputError.
      def read(io)
        while (line = TextLines.next(io, @number + 1))
          @number += 1
          line = line.dup.force_encoding("UTF-8").scrub("?").delete_prefix("\uFEFF") if @number == 1
          next if line.start_with?("#") || blank?(line)

          head(line)
          break if @columns
        end
        blocks(io) if @columns
        finish
      end

      private

      def blank?(line)
        line.match?(/\A[\s,;]*\z/)
      end

      # The first rows: names, units, or already numbers.
      def head(line)
        text = line.encode("UTF-8", invalid: :replace, undef: :replace).scrub("?").chomp
        @separator ||= separator(text)
        cells = Cells.split(text, @separator)
        return names(cells) if @names.nil? && cells.none? { |cell| cell.match?(NUMBER) }
        return units(cells) if @names && @units.nil? && cells.all? { |cell| cell.strip.empty? || unit?(cell) }

        begin_numbers(cells, line)
      end

      def separator(text)
        return "\t" if text.include?("\t")
        return ";" if text.include?(";")

        ","
      end

      def unit?(cell)
        key = bare(cell)
        TIME_SCALES.key?(key) || VALUE_SCALES.key?(key)
      end

      def bare(cell)
        cell.to_s[/[\[(]?\s*([^\[\]()]*?)\s*[\])]?\z/, 1].to_s.downcase
      end

      def names(cells)
        raise at(cells.size, cells.last, "at most #{MOST_COLUMNS} columns") if cells.size > MOST_COLUMNS

        @names = cells.map { |cell| cell.sub(/\s*[\[(][^\[\]()]*[\])]\s*\z/, "").strip }
        inside = cells.map { |cell| Cells.unit(cell) }
        @units = inside if inside.any? { |unit| unit && unit?(unit) }
      end

      def units(cells)
        @units = cells.map { |cell| cell.empty? ? nil : bare(cell) }
      end

      def begin_numbers(cells, line)
        @names ||= cells.each_index.map { |i| i.zero? ? "Time" : "CH#{i}" }
        raise at(1, cells.first, "a column for time and one at least for values") if @names.size < 2

        @decimal_comma = @separator != ","
        @time_column = @names.index { |name| name.match?(TIME_NAME) } || 0
        @time_scale =
          TIME_SCALES[bare((@units || [])[@time_column])] ||
            TIME_SCALES.fetch(@names[@time_column][NAMED_TIME, 1].to_s.downcase, 1.0)
        @columns = @names.each_index.reject { |i| i == @time_column }
        scales =
          @columns.map do |i|
            VALUE_SCALES[bare((@units || [])[i])] || VALUE_SCALES.fetch(@names[i][NAMED, 1].to_s.downcase, ["", 1.0])
          end
        @value_units = scales.map(&:first)
        @scales = scales.map(&:last)
        @values = @columns.map { [] }
        careful(line)
      end

      # The rest, some thousands of lines at a time. A block that is nothing but rows of plain numbers is read by JSON's
      # own parser, written in C and strict about what a number is; any other, line by line.
      def blocks(io)
        while (block = io.read(BLOCK_BYTES))
          block << TextLines.next(io, @number + block.count("\n") + 1).to_s unless block.end_with?("\n")
          quick(block) || slow(block)
        end
      end

      NUMERIC = "^-+0-9.,;\t \r\neE"

      def quick(block)
        return false unless block.count(NUMERIC).zero?

        text = block.include?("\r") ? block.delete("\r").chomp : block.chomp
        rows = text.count("\n") + 1
        return false unless text.delete("^\n#{@separator}") == ("#{@separator * (@names.size - 1)}\n" * rows).chomp

        take(JSON.parse("[#{@decimal_comma ? text.tr(",#{@separator}\n", ".,,") : text.tr("\n", ",")}]"), rows)
      rescue JSON::ParserError
        false
      end

      # The cells of whole rows, one after the other. false where time runs back or a number is too large to be one.
      def take(cells, rows)
        times = every(cells, @time_column, @time_scale, rows)
        return false unless rising?(times)

        columns = @columns.each_with_index.map { |column, i| every(cells, column, @scales[i], rows) }
        return false unless [times, *columns].all? { |column| column.all? { |value| value.abs <= MOST } }

        @time.concat(times)
        @last = times.last
        columns.each_with_index { |column, i| @values[i].concat(column) }
        @number += rows
        true
      end

      # One column out of the cells, scaled.
      def every(cells, column, scale, rows)
        width = @names.size
        values = Array.new(rows)
        i = 0
        while i < rows
          values[i] = cells[column] * scale
          column += width
          i += 1
        end
        values
      end

      def rising?(times)
        last = @last
        times.each do |time|
          return false if time < last

          last = time
        end
        true
      end

      def slow(block)
        text = StringIO.new(block)
        while (line = TextLines.next(text, @number + 1))
          @number += 1
          careful(line) unless line.start_with?("#") || blank?(line)
        end
      end

      def keep(numbers)
        @last = numbers[@time_column] * @time_scale
        @time << @last
        i = 0
        while i < @columns.size
          @values[i] << (numbers[@columns[i]] * @scales[i])
          i += 1
        end
      end

      # The same cell by cell, to say what is wrong.
      def careful(line)
        text = line.dup.force_encoding("UTF-8").scrub("?").chomp
        cells = Cells.split(text, @separator)
        cells = cells.first(@names.size) if cells.size > @names.size && cells.drop(@names.size).all?(&:empty?)
        raise at(text.length + 1, text, "#{@names.size} cells as in the header") if cells.size != @names.size

        numbers = cells.each_with_index.map { |cell, i| number(cell, text, i) }
        time = numbers[@time_column] * @time_scale
        if @last && time < @last
          raise at(
                  Cells.column(text, @separator, @time_column),
                  cells[@time_column],
                  "a time not before the one of the row above"
                )
        end

        keep(numbers)
      end

      def number(cell, text, index)
        value =
          if cell.match?(NUMBER)
            Float(cell.tr(",", ".").sub(/\.(?=[eE]|\z)/, "").sub(/\A([-+]?)\./, '\10.'), exception: false)
          end
        return value if value&.finite? && value.abs <= MOST

        raise at(
                Cells.column(text, @separator, index),
                cell,
                "a number#{" with a decimal point or comma" if @decimal_comma}, at most #{MOST.to_i}"
              )
      end

      def at(column, given, expected)
        InputError.new(field: "line #{@number}, column #{column}", given: given, expected: expected)
      end

      def finish
        if @time.size < 2
          raise InputError.new(
                  field: "line #{[@number, 1].max}, column 1",
                  given: "",
                  expected: "a header and at least two rows of numbers"
                )
        end

        if @time.last - @time.first < LEAST_S
          raise InputError.new(
                  field: "line #{@number}, column #{@time_column + 1}",
                  given: "#{@time.size} samples at one time",
                  expected: "times that run on, a nanosecond at the least",
                  fix: "Export the capture with its time column."
                )
        end

        channels =
          @columns.each_with_index.map do |column, i|
            Capture::Channel.new(
              name: @names[column].empty? ? "CH#{i + 1}" : @names[column],
              unit: @value_units[i],
              values: @values[i]
            )
          end
        Capture.new(@time, channels)
      end
    end
  end
end
