# frozen_string_literal: true

module Gadwall
  module Circuits
    # LU factorisation with partial pivoting (Doolittle; Golub and Van Loan, Matrix Computations, ch. 3; from memory).
    # Dense, for networks of some tens of nodes, with zeros skipped. A pivot below 1e-15 of the largest entry of its
    # column in the original matrix counts as singular. Bare while loops: everything that Gadwall predicts goes through
    # them.
    class LU
      # rows: n arrays of n Floats; not changed. Raises SingularNetworkError.
      def initialize(rows)
        @n = rows.size
        @lu = rows.map(&:dup)
        @order = (0...@n).to_a
        factorise
      end

      # rhs: n Floats. Returns n Floats.
      def solve(rhs)
        y = @order.map { |row| rhs[row] }
        forward(y)
        backward(y)
      end

      # The inverse, as n rows of n Floats.
      def inverse
        columns = (0...@n).map { |k| solve(Array.new(@n) { |i| i == k ? 1.0 : 0.0 }) }
        columns.transpose
      end

      private

      def factorise
        scale = column_scales
        (0...@n).each do |k|
          bring_up_pivot(k, scale[k])
          eliminate_below(k)
        end
        # By column, because most right sides are nearly empty: [rows, factors] below and above the diagonal.
        @below = (0...@n).map { |j| filled(j, (j + 1)...@n) }
        @above = (0...@n).map { |j| filled(j, 0...j) }
      end

      def filled(column, rows)
        rows.reject { |i| @lu[i][column].zero? }.then { |own| [own, own.map { |i| @lu[i][column] }] }
      end

      def column_scales
        (0...@n).map { |k| @lu.map { |row| row[k].abs }.max || 0.0 }
      end

      def bring_up_pivot(k, scale)
        best = k
        most = @lu[k][k].abs
        i = k + 1
        while i < @n
          size = @lu[i][k].abs
          if size > most
            best = i
            most = size
          end
          i += 1
        end
        if most <= scale * 1e-15 || scale.zero?
          raise SingularNetworkError,
                "the network has no single solution: look for ideal sources in parallel or a loop of them"
        end
        return if best == k

        @lu[k], @lu[best] = @lu[best], @lu[k]
        @order[k], @order[best] = @order[best], @order[k]
      end

      def eliminate_below(k)
        pivot_row = @lu[k]
        pivot = pivot_row[k]
        filled = ((k + 1)...@n).reject { |j| pivot_row[j].zero? }
        i = k
        while (i += 1) < @n
          row = @lu[i]
          next if row[k].zero?

          factor = row[k] /= pivot
          filled.each { |j| row[j] -= factor * pivot_row[j] }
        end
      end

      def forward(y)
        j = -1
        while (j += 1) < @n
          value = y[j]
          spread(y, @below[j], value) unless value == 0.0
        end
      end

      def backward(y)
        j = @n
        while (j -= 1) >= 0
          next if y[j] == 0.0

          value = y[j] /= @lu[j][j]
          spread(y, @above[j], value)
        end
        y
      end

      def spread(y, column, value)
        rows, factors = column
        k = rows.size
        y[rows[k]] -= factors[k] * value while (k -= 1) >= 0
      end
    end
  end
end
