# frozen_string_literal: true

module Gadwall
  # The cells of one line of a table in a text file.
  module Cells
    UNIT = /[\[(]([^\[\]()]*)[\])]\s*\z/

    # The line in cells, without the quotes and spaces around them. A separator between quotes is part of its cell.
    def self.split(line, separator)
      parts(line, separator).map { |cell| bare(cell) }
    end

    # The column of the line, from 1, at which a cell begins.
    def self.column(line, separator, index)
      parts(line, separator).first(index).sum { |cell| cell.length + 1 } + 1
    end

    # The unit in brackets at the end of a name, as it stands there, or nil.
    def self.unit(name)
      name[UNIT, 1]
    end

    # A cell that a spreadsheet would run as a formula, made a text; nil stays nil. cell: text, number or nil.
    def self.escape(cell)
      text = cell.to_s
      text.match?(/\A[=+\-@\t\r]/) && !text.match?(/\A-?\d+(?:[.,]\d+)?\z/) ? "'#{text}" : cell
    end

    # The cells as they stand in the line, quotes and all.
    def self.parts(line, separator)
      return line.split(separator, -1) unless line.include?('"')

      cells = [+""]
      quoted = false
      line.each_char do |char|
        quoted = !quoted if char == '"'
        char == separator && !quoted ? cells << +"" : cells.last << char
      end
      quoted ? line.split(separator, -1) : cells # a quote that is never closed is a letter like any other
    end

    def self.bare(cell)
      text = cell.strip
      return text unless text.start_with?('"') || text.end_with?('"')

      text.delete_prefix('"').delete_suffix('"').gsub('""', '"').strip
    end
    private_class_method :parts, :bare
  end
end
