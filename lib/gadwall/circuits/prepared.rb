# frozen_string_literal: true

module Gadwall
  module Circuits
    # A network factorised once, to be read many times with small changes.
    #
    # A fault, a meter and a part's tolerance each change one conductance. By the Sherman-Morrison-Woodbury identity
    # (Golub and Van Loan, 2.1.4; from memory) the changed network needs no new factorisation:
    #   x' = x - Z E (D^-1 + E'Z E)^-1 E'x,  Z the inverse, E the changed branches, D their changes in siemens.
    #
    # Taking a good conductance away by such a change cancels nearly all digits (tried: a broken wire read 0 ohm). So an
    # element that a fault opens is left out (`omit`) and what is left of it is added; and the node against which a floating
    # part is measured is the zero (`reference`). Then every change adds, and nothing cancels.
    #
    # Every node must have some path to every other (templates give each pin its insulation resistance), and every source
    # an inner resistance.
    class Prepared
      # [a, b, siemens]: the conductance between two nodes goes up by so much.
      Change = Struct.new(:a, :b, :siemens)

      # network: a Network of resistors, sources behind a resistance, and at most one sink. omit: ids of elements left out
      # of the matrix; a source among them still drives its current.
      def initialize(network, reference: Network::GROUND, omit: [])
        @reference = reference
        @index = (network.nodes - [reference]).each_with_index.to_h
        matrix, @drives = assemble(network, omit)
        @lu = LU.new(matrix)
        @columns = {}
        @x = @drives.transform_values { |injections| response(injections) }
      end

      # This network with conductances changed: several faults at once are simply several changes.
      def changed(changes)
        Changed.new(self, changes.map { |change| [branch(change.a, change.b), change.siemens] })
      end

      # A pair of nodes as used below: row numbers, nil for the zero.
      def branch(a, b)
        [index(a), index(b)]
      end

      # {source id or "sink" => volts across the branch}, each drive at its prepared strength, the sink at one ampere.
      def gains(branch)
        @x.transform_values { |x| across(x, branch) }
      end

      # Volts across branch p for one ampere through branch q.
      def impedance(p, q)
        c, d = q
        z = 0.0
        z += across(column(c), p) if c
        z -= across(column(d), p) if d
        z
      end

      private

      def index(node)
        node == @reference ? nil : @index.fetch(node)
      end

      def assemble(network, omit)
        matrix = Array.new(@index.size) { Array.new(@index.size, 0.0) }
        drives = {}
        network.elements.each do |element|
          case element
          when Network::Resistor then add(matrix, element, 1.0 / element.ohm) unless omit.include?(element.id)
          when Network::Source
            add(matrix, element, 1.0 / element.ohm) unless omit.include?(element.id)
            drives[element.id] = [[index(element.a), element.volt / element.ohm], [index(element.b), -element.volt / element.ohm]]
          when Network::Sink then drives["sink"] = [[index(element.a), -1.0], [index(element.b), 1.0]]
          else raise ArgumentError, "#{element.class} cannot be prepared; use Solver"
          end
        end
        [matrix, drives]
      end

      def add(matrix, element, siemens)
        i = index(element.a)
        j = index(element.b)
        matrix[i][i] += siemens if i
        matrix[j][j] += siemens if j
        return unless i && j

        matrix[i][j] -= siemens
        matrix[j][i] -= siemens
      end

      def response(injections)
        rhs = Array.new(@index.size, 0.0)
        injections.each { |i, ampere| rhs[i] += ampere if i }
        @lu.solve(rhs)
      end

      # Volts at every node for one ampere into node i. The matrix is symmetric, so rows and columns are one.
      def column(i)
        @columns[i] ||= @lu.solve(Array.new(@index.size) { |k| k == i ? 1.0 : 0.0 })
      end

      def across(column, branch)
        (branch[0] ? column[branch[0]] : 0.0) - (branch[1] ? column[branch[1]] : 0.0)
      end
    end
  end
end
