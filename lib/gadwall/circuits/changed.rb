# frozen_string_literal: true

module Gadwall
  module Circuits
    # A prepared network with some resistances and conductances changed, ready to be read anywhere.
    # The small system of the identity (one row for each change) is inverted once; see Prepared.
    class Changed
      # prepared: Prepared; changes: [[rows, d], ...]: siemens added between two nodes, or minus the ohms added to a branch.
      def initialize(prepared, changes)
        @prepared = prepared
        @rows = changes.map(&:first)
        @d = changes.map(&:last)
        @small = small_inverse
        @coupling = {}
      end

      # A reading across rows of the solution x of the unchanged network.
      def across(x, rows)
        base = @prepared.across(x, rows)
        return base if @rows.empty?

        base - dot(coupling(rows), flows(@rows.map { |own| @prepared.across(x, own) }))
      end

      # Ohms between the two nodes of rows, sources off.
      def ohms(rows)
        base = @prepared.transfer(rows, rows)
        return base if @rows.empty?

        base - dot(coupling(rows), flows(coupling(rows)))
      end

      private

      def coupling(rows)
        @coupling[rows] ||= @rows.map { |own| @prepared.transfer(rows, own) }
      end

      # (I + D U'ZU)^-1 D v for what stands across the changed rows.
      def flows(values)
        if @rows.size == 1
          [@small[0][0] * @d[0] * values[0]]
        else
          driven = values.each_with_index.map { |value, i| @d[i] * value }
          @small.map { |row| dot(row, driven) }
        end
      end

      def small_inverse
        return [] if @rows.empty?
        return [[1.0 / (1.0 + (@d[0] * @prepared.transfer(@rows[0], @rows[0])))]] if @rows.size == 1

        matrix = @rows.each_with_index.map do |p, i|
          @rows.each_with_index.map { |q, j| (i == j ? 1.0 : 0.0) + (@d[i] * @prepared.transfer(p, q)) }
        end
        matrix.size == 2 ? inverse_of_two(*matrix) : LU.new(matrix).inverse
      end

      def inverse_of_two(first, second)
        (a, b), (c, d) = first, second
        determinant = (a * d) - (b * c)
        [[d / determinant, -b / determinant], [-c / determinant, a / determinant]]
      end

      def dot(a, b)
        sum = 0.0
        a.each_with_index { |value, i| sum += value * b[i] }
        sum
      end
    end
  end
end
