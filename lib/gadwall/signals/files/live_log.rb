# frozen_string_literal: true

require "csv"

module Gadwall
  module Signals
    # Slow parameters logged by a scan tool, 1 to 50 rows a second: CSV with free column names, matched to known
    # parameters (data/diagnosis/live_parameters.yml) or mapped by hand. States may be words; an empty cell keeps the
    # last value.
    class LiveLog
      WORDS = {
        "on" => 1.0,
        "off" => 0.0,
        "yes" => 1.0,
        "no" => 0.0,
        "true" => 1.0,
        "false" => 0.0,
        "active" => 1.0,
        "inactive" => 0.0,
        "pressed" => 1.0,
        "released" => 0.0,
        "applied" => 1.0,
        "running" => 1.0,
        "stopped" => 0.0,
        "open" => 0.0,
        "closed" => 1.0,
        "not pressed" => 0.0,
        "depressed" => 1.0,
        "not active" => 0.0,
        "enabled" => 1.0,
        "disabled" => 0.0,
        "locked" => 1.0,
        "unlocked" => 0.0,
        "clamped" => 1.0,
        "clamping" => 1.0,
        "applying" => 1.0,
        "releasing" => 0.0,
        "set" => 1.0,
        "not set" => 0.0,
        "idle" => 0.0,
        "moving" => 1.0
      }.freeze
      NOTHING = %r{\A(?:|-+|n/?a|null|nan)\z}i
      CLOCK = /\A(?:(\d{1,2}):)?(\d{1,2}):(\d{1,2}(?:[.,]\d+)?)\z/

      attr_reader :time_s, :values, :columns

      # io: answers read; mapping: {column name => parameter id, "" for none}. Raises InputError that names line
      # and column.
      def self.read(io, mapping: {})
        new(io, mapping)
      end

      def initialize(io, mapping = {}, catalogue: Knowledge.catalogue)
        @catalogue = catalogue
        @mapping = mapping
        @time_s = []
        @number = 0
        lines(io) { |line| @columns ? row(line) : head(line) }
        raise at(1, 1, "", "a header with names") unless @columns
        raise at(@number, 1, "", "at least two rows of values") if @time_s.size < 2
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

      # Yields the lines that say something, whatever ends them.
      def lines(io)
        TextLines.each(io) do |bytes, number|
          @number = number
          line = bytes.force_encoding("UTF-8").scrub("?")
          line = line.delete_prefix("\uFEFF") if number == 1
          yield line unless line.strip.empty? || line.start_with?("#")
        end
      end

      def head(line)
        @separator = ["\t", ";", ","].find { |mark| line.include?(mark) } or
          raise at(@number, 1, line, "columns separated by comma, semicolon or tab")
        @columns = Cells.split(line, @separator)
        if @columns.size > CsvCapture::MOST_COLUMNS
          raise at(@number, 1, "#{@columns.size} columns", "at most #{CsvCapture::MOST_COLUMNS} columns")
        end

        @parameters = matched(@mapping)
        @values = @parameters.values.compact.to_h { |id, _| [id, []] }
        @time_scale = CsvCapture::TIME_SCALES.fetch(unit_of(@columns[@time_column]).to_s.downcase, 1.0)
      end

      # By column index: [parameter id, scale]. A parameter is matched once: the first column that was mapped to it by
      # hand, else the first whose name fits.
      def matched(mapping)
        taken = []
        @time_column = @columns.index { |name| name.match?(CsvCapture::TIME_NAME) } || 0
        reserved = mapping.values_at(*@columns)
        @columns.each_with_index.to_h do |name, i|
          id = i == @time_column ? nil : mapping.fetch(name) { parameter_of(name, taken + reserved) }
          id = nil if id == "" || taken.include?(id)
          taken << id
          [i, id && [id, scale_of(unit_of(name), id)]]
        end
      end

      def parameter_of(name, taken)
        words = apart(name)
        patterns.find { |id, each| !taken.include?(id) && each.match?(words) }&.first
      end

      def patterns
        @patterns ||= @catalogue.live_parameters.transform_values { |row| @catalogue.patterns(row) }
      end

      # "WheelSpeedFL" and "wheel_speed_fl" as words.
      def apart(name)
        name.tr("_", " ").gsub(/(?<=[a-z])(?=[A-Z])|(?<=[A-Z])(?=[A-Z][a-z])/, " ")
      end

      # In brackets behind the name, or its last word.
      def unit_of(name)
        Cells.unit(name) || apart(name).split.last
      end

      def scale_of(unit, id)
        unit = unit.to_s.strip
        row = @catalogue.live_parameters[id] or
          raise UnknownNameError.new(field: "mapping", given: id, known: @catalogue.live_parameters.keys)
        row["scales"].find { |key, _| key.casecmp?(unit) }&.last || 1.0
      end

      # A row of units below the names, if it is one: what it says is taken over.
      def units?(cells)
        if @units_seen || @time_s.any? || cells.any? { |cell| cell.match?(/\d/) && !cell.match?(%r{\Am/s2\z}i) }
          return false
        end

        units = cells.map { |cell| cell.delete("()[]") }
        @parameters.each do |i, parameter|
          parameter[1] = scale_of(units[i], parameter[0]) if parameter && units[i] && !units[i].empty?
        end
        @time_scale = CsvCapture::TIME_SCALES.fetch(units[@time_column].to_s.downcase, @time_scale)
        @units_seen = true
      end

      def row(line)
        cells = Cells.split(line, @separator)
        return if units?(cells)
        if cells.size < @columns.size
          raise at(@number, line.length + 1, line, "#{@columns.size} cells as in the header")
        end

        time = time_of(cells[@time_column])
        if @time_s.any? && time < @time_s.last
          raise at(@number, 1, cells[@time_column], "a time not before the one of the row above")
        end

        @time_s << time
        @parameters.each do |i, (id, factor)|
          @values[id] << value_of(cells[i], @number, line, i, factor, @values[id].last) if id
        end
      end

      def time_of(cell)
        if (clock = CLOCK.match(cell))
          return (clock[1].to_i * 3600) + (clock[2].to_i * 60) + clock[3].tr(",", ".").to_f
        end
        raise at(@number, 1, cell, "a time in seconds or as 12:30:05.2") unless cell.match?(CsvCapture::NUMBER)

        finite(cell, 1) * @time_scale
      end

      def value_of(cell, number, line, index, factor, last)
        return last || 0.0 if cell.match?(NOTHING)
        return WORDS.fetch(cell.downcase) if WORDS.key?(cell.downcase)

        text = cell.sub(%r{\s*[%°a-zA-Z/²]+\z}, "")
        unless text.match?(CsvCapture::NUMBER)
          raise at(number, Cells.column(line, @separator, index), cell, "a number or a word such as on, off")
        end

        finite(text, Cells.column(line, @separator, index)) * factor
      end

      # text: a number in letters; column: where it stands. Raises InputError for one that no instrument shows.
      def finite(text, column)
        value = text.tr(",", ".").to_f
        return value if value.abs <= CsvCapture::MOST

        raise at(@number, column, text, "a number of at most #{CsvCapture::MOST.to_i}")
      end

      def at(line, column, given, expected)
        InputError.new(field: "line #{line}, column #{column}", given: given.to_s[0, 40], expected: expected)
      end
    end
  end
end
