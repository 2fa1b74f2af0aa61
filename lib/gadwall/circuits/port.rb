# frozen_string_literal: true

module Gadwall
  module Circuits
    # Where a prepared network is read, driven or changed: a pair of nodes, or the current of one element.
    #
    # i, j: two rows of the solution, whose difference is what the port shows. Solutions carry one 0.0 more at their
    # end, the row of whatever is the zero, so that no port needs a special case.
    class Port
      attr_reader :i, :j

      def initialize(i, j, &column)
        @i = i
        @j = j
        @make = column
      end

      # What a unit driven into this port raises in every row.
      def column
        @column ||= @make.call(@i, @j)
      end

      # What the port shows of a solution.
      def of(x)
        x[@i] - x[@j]
      end

      # What the other port shows for a unit driven into this one. The matrix is symmetric: this is the same both ways.
      def transfer(other)
        z = column
        z[other.i] - z[other.j]
      end
    end
  end
end
