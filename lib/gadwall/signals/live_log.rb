# frozen_string_literal: true

require "csv"

module Gadwall
  module Signals
    # Slow parameters logged by a scan tool, 1 to 50 rows a second: CSV with free column names, matched to known parameters
    # (data/diagnosis/live_parameters.yml) or mapped by hand. States may be words; an empty cell keeps the last value.
    class LiveLog
      WORDS = { "on" => 1.0, "off" => 0.0, "yes" => 1.0, "no" => 0.0, "true" => 1.0, "false" => 0.0, "active" => 1.0, "inactive" => 0.0, "pressed" => 1.0, "released" => 0.0, "applied" => 1.0,
                "running" => 1.0, "stopped" => 0.0, "open" => 0.0, "closed" => 1.0, "not pressed" => 0.0, "depressed" => 1.0, "not active" => 0.0, "enabled" => 1.0, "disabled" => 0.0,
                "locked" => 1.0, "unlocked" => 0.0, "clamped" => 1.0, "clamping" => 1.0, "applying" => 1.0, "releasing" => 0.0, "set" => 1.0, "not set" => 0.0, "idle" => 0.0, "moving" => 1.0 }.freeze
      NOTHING = /\A(?:|-+|n\/?a|null|nan)\z/i
      CLOCK = /\A(?:(\d{1,2}):)?(\d{1,2}):(\d{1,2}(?:[.,]\d+)?)\z/

      attr_reader :time_s, :values, :columns

      # io: answers read; mapping: {column name => parameter id, "" for none}. Raises InputError that names line and column.
      def self.read(io, mapping: {})
        new(io.read, mapping)
      end

      # text: of the file.
      def initialize(text, mapping = {}, catalogue: Knowledge.catalogue)
        @lines = text.dup.force_encoding("UTF-8").scrub("?").delete_prefix("\uFEFF").split(/\r\n|\n|\r/)
        @catalogue = catalogue
        head = @lines.index { |line| !line.strip.empty? && !line.start_with?("#") } or raise at(1, 1, "", "a header with names")
        @separator = ["\t", ";", ","].find { |mark| @lines[head].include?(mark) } or raise at(head + 1, 1, @lines[head], "columns separated by comma, semicolon or tab")
        @columns = Cells.split(@lines[head], @separator)
        @parameters = matched(mapping)
        read_rows(head + 1)
      end

      # Does the log have this parameter?
      def has?(*ids)
        ids.all? { |id| values.key?(id) }
      end

      # What each column was taken for: {name => parameter id or nil}.
      def matches
        @columns.each_with_index.to_h { |name, i| [name, @parameters[i]&.first] }
      end

      private

      # By column index: [parameter id, scale]. A parameter is matched once, the first column that fits.
      def matched(mapping)
        taken = []
        @time_column = @columns.index { |name| name.match?(CsvCapture::TIME_NAME) } || 0
        @columns.each_with_index.to_h do |name, i|
          id = i == @time_column ? nil : mapping.fetch(name) { parameter_of(name, taken) }
          id = nil if id == ""
          taken << id
          [i, id && [id, scale_of(name, id)]]
        end
      end

      def parameter_of(name, taken)
        @catalogue.live_parameters.values.find { |row| !taken.include?(row["id"]) && name.match?(/#{row['words']}/i) }&.fetch("id")
      end

      def scale_of(name, id)
        unit = Cells.unit(name).to_s.strip
        row = @catalogue.live_parameters[id] or raise UnknownNameError.new(field: "mapping", given: id, known: @catalogue.live_parameters.keys)
        row["scales"].find { |key, _| key.casecmp?(unit) }&.last || 1.0
      end

      def read_rows(from)
        @time_s = []
        @values = @parameters.values.compact.to_h { |id, _| [id, []] }
        scale = CsvCapture::TIME_SCALES.fetch(Cells.unit(@columns[@time_column]).to_s.downcase, 1.0)
        @lines.each_with_index.drop(from).each { |line, i| row(line, i + 1, scale) unless line.strip.empty? || line.start_with?("#") || units?(line, i, from) }
        raise at(@lines.size, 1, "", "at least two rows of values") if @time_s.size < 2
      end

      # A row of units below the names.
      def units?(line, index, from)
        index == from && Cells.split(line, @separator).none? { |cell| cell.match?(/\d/) }
      end

      def row(line, number, scale)
        cells = Cells.split(line, @separator)
        raise at(number, line.length + 1, line, "#{@columns.size} cells as in the header") if cells.size < @columns.size

        time = time_of(cells[@time_column], number, scale)
        raise at(number, 1, cells[@time_column], "a time not before the one of the row above") if @time_s.any? && time < @time_s.last

        @time_s << time
        @parameters.each { |i, (id, factor)| @values[id] << value_of(cells[i], number, line, i, factor, @values[id].last) if id }
      end

      def time_of(cell, number, scale)
        if (clock = CLOCK.match(cell))
          return (clock[1].to_i * 3600) + (clock[2].to_i * 60) + clock[3].tr(",", ".").to_f
        end
        raise at(number, 1, cell, "a time in seconds or as 12:30:05.2") unless cell.match?(CsvCapture::NUMBER)

        cell.tr(",", ".").to_f * scale
      end

      def value_of(cell, number, line, index, factor, last)
        return last || 0.0 if cell.match?(NOTHING)
        return WORDS.fetch(cell.downcase) if WORDS.key?(cell.downcase)

        text = cell.sub(/\s*[%°a-zA-Z\/²]+\z/, "")
        raise at(number, Cells.column(line, @separator, index), cell, "a number or a word such as on, off") unless text.match?(CsvCapture::NUMBER)

        text.tr(",", ".").to_f * factor
      end

      def at(line, column, given, expected)
        InputError.new(field: "line #{line}, column #{column}", given: given.to_s[0, 40], expected: expected)
      end
    end
  end
end
