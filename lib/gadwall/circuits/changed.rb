# frozen_string_literal: true

module Gadwall
  module Circuits
    # A prepared network with some resistances and conductances changed, ready to be read at any port.
    #
    # The Sherman-Morrison-Woodbury identity (Golub and Van Loan, 2.1.4; from memory), in which only a matrix with one
    # row for each change is inverted: Z' = Z - Z U W U'Z, W = (1 + D U'ZU)^-1 D; U the changed ports, D the changes.
    class Changed
      # changes: [[Port, d], ...]: siemens added between two nodes, or minus the ohms added to a branch.
      def initialize(changes)
        @ports = changes.map(&:first)
        @weights = @ports.empty? ? [] : weights(changes.map(&:last))
        @couplings = {}.compare_by_identity
      end

      # What the port shows, of the solution x of the unchanged network.
      def across(x, port)
        base = port.of(x)
        case @ports.size
        when 0
          base
        when 1
          base - (@ports[0].transfer(port) * @weights[0][0] * @ports[0].of(x))
        else
          base - product(coupling(port), @ports.map { |own| own.of(x) })
        end
      end

      # Port#transfer of the changed network; of a port with itself: ohms between two nodes, sources off.
      def transfer(p, q)
        base = p.transfer(q)
        case @ports.size
        when 0
          base
        when 1
          base - (@ports[0].transfer(p) * @weights[0][0] * @ports[0].transfer(q))
        else
          base - product(coupling(p), coupling(q))
        end
      end

      private

      def coupling(port)
        @couplings[port] ||= @ports.map { |own| own.transfer(port) }
      end

      def product(left, right)
        sum = 0.0
        left.each_with_index { |value, i| sum += value * dot(@weights[i], right) }
        sum
      end

      def dot(a, b)
        sum = 0.0
        a.each_with_index { |value, i| sum += value * b[i] }
        sum
      end

      def weights(d)
        return [[d[0] / (1.0 + (d[0] * @ports[0].transfer(@ports[0])))]] if d.size == 1
        return weights_of_two(*d) if d.size == 2

        matrix =
          @ports.each_with_index.map do |p, i|
            @ports.each_with_index.map { |q, j| (i == j ? 1.0 : 0.0) + (d[i] * p.transfer(q)) }
          end
        LU.new(matrix).inverse.map { |row| row.each_with_index.map { |value, j| value * d[j] } }
      end

      # The same for two changes, the inverse written out.
      def weights_of_two(d, e)
        p, q = @ports
        between = p.transfer(q)
        a = 1.0 + (d * p.transfer(p))
        b = 1.0 + (e * q.transfer(q))
        whole = (a * b) - (d * between * e * between)
        [[b * d / whole, -d * between * e / whole], [-e * between * d / whole, a * e / whole]]
      end
    end
  end
end
