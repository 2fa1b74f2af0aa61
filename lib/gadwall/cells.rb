# frozen_string_literal: true

module Gadwall
  # The cells of one line of a table in a text file.
  module Cells
    UNIT = /[\[(]([^\[\]()]*)[\])]\s*\z/

    # The line in cells, without the quotes and spaces around them.
    def self.split(line, separator)
      line.split(separator, -1).map { |cell| cell.strip.delete_prefix('"').delete_suffix('"').strip }
    end

    # The column of the line, from 1, at which a cell begins.
    def self.column(line, separator, index)
      line.split(separator, -1).first(index).sum { |cell| cell.length + 1 } + 1
    end

    # The unit in brackets at the end of a name, as it stands there, or nil.
    def self.unit(name)
      name[UNIT, 1]
    end
  end
end
