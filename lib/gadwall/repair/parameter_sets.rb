# frozen_string_literal: true

require "csv"
require "json"

module Gadwall
  module Repair
    # Parameters of a module: read from a file (JSON or CSV) or typed, and compared line by line.
    module ParameterSets
      # values: {source => text or nil}; differs: do those that are there not agree?
      Line = Struct.new(:name, :values, :differs, keyword_init: true)
      MOST = 2000
      NAME = /\A(?:name|parameter|id|key)\z/i
      VALUE = /\A(?:value|wert|data)\z/i

      # text: JSON (an object, or a list of {"name", "value", "unit"}), CSV with a header (name, value, unit), or typed
      # lines "name = value unit". Returns [{"name", "value", "unit"}, ...]. Raises InputError that names the line.
      def self.read(text)
        given = text.to_s.dup.force_encoding("UTF-8").scrub("?").delete_prefix("\uFEFF").strip
        fail!("file", "empty", "parameters, one in a line") if given.empty?
        rows = given.start_with?("{", "[") ? json(given) : lines(given)
        fail!("file", rows.size, "1 to #{MOST} parameters") unless rows.size.between?(1, MOST)
        twice = rows.map { |row| row["name"].downcase }.tally.find { |_, count| count > 1 }
        fail!(twice.first, "stands twice", "each parameter once") if twice
        rows
      end

      # sets: {source => rows or nil}, in order. Returns an Array of Line, in the order of the first set that has it.
      def self.compare(sets)
        given = sets.compact
        names = given.values.flat_map { |rows| rows.map { |row| row["name"] } }.uniq(&:downcase)
        names.map do |name|
          values = given.transform_values { |rows| said(rows.find { |row| row["name"].casecmp?(name) }) }
          Line.new(name: name, values: values, differs: values.values.uniq { |text| plain(text) }.size > 1).freeze
        end
      end

      def self.json(text)
        data = Quantity::Decimal.json(text, field: "file", nesting: 6)
        list = data.is_a?(Hash) ? (data["parameters"] || data) : data
        return list.map { |name, value| row(name, value) } if list.is_a?(Hash)

        list.each_with_index.map do |each, i|
          unless each.is_a?(Hash) && each["name"]
            fail!("line #{i + 1}", each.inspect[0, 40], "an object with name and value")
          end
          row(each["name"], each["value"], each["unit"])
        end
      end

      def self.lines(text)
        first = text.lines.first
        separator = [";", "\t", ","].max_by { |each| first.count(each) }
        header = first.chomp.split(separator).map(&:strip)
        name = header.index { |each| each.match?(NAME) }
        value = header.index { |each| each.match?(VALUE) }
        return csv(text, separator, name, value, header) if name && value && first.include?(separator)

        text.lines.each_with_index.filter_map { |line, i| typed(line.strip, i + 1) }
      end

      def self.csv(text, separator, name, value, header)
        unit = header.index { |each| each.match?(/\Aunit\z/i) }
        table = CSV.parse(text, col_sep: separator, liberal_parsing: true)
        table
          .drop(1)
          .each_with_index
          .filter_map do |cells, i|
            next if cells.all? { |cell| cell.to_s.strip.empty? }
            fail!("line #{i + 2}", cells.join(separator)[0, 40], "a name and a value") if cells[name].to_s.strip.empty?

            row(cells[name], cells[value], unit && cells[unit])
          end
      rescue CSV::MalformedCSVError => error
        fail!("line #{error.line_number}", "not CSV", "cells separated by '#{separator}'")
      end

      def self.typed(line, number)
        return if line.empty? || line.start_with?("#")

        name, value = line.split(/\s*[=:\t]\s*/, 2)
        fail!("line #{number}", line[0, 40], "a parameter as 'name = value'") if value.to_s.strip.empty? || name.empty?
        row(name, value)
      end

      def self.row(name, value, unit = nil)
        {
          "name" => name.to_s.strip[0, 120],
          "value" => value.to_s.strip[0, 200],
          "unit" => (unit.to_s.strip[0, 20] unless unit.to_s.strip.empty?)
        }.compact
      end

      def self.said(row)
        row && [row["value"], row["unit"]].compact.join(" ")
      end

      # 3.50 and 3,5 are the same number.
      def self.plain(text)
        return text if text.nil?

        Quantity::Decimal.read(text) || text.downcase.gsub(/\s+/, " ")
      end

      def self.fail!(field, given, expected)
        raise InputError.new(field: field, given: given, expected: expected)
      end
      private_class_method :json, :lines, :csv, :typed, :row, :said, :plain, :fail!
    end
  end
end
