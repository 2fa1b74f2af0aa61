# frozen_string_literal: true

module Gadwall
  module Circuits
    # A network factorised once, to be read many times with small changes.
    #
    # The current of every wire, contact and part is an unknown of its own (modified nodal analysis: u_a - u_b - R i = E).
    # So a fault in series adds to one R, a bridge adds one conductance, and each is a change of rank one: by the
    # Sherman-Morrison-Woodbury identity (Golub and Van Loan, 2.1.4; from memory) it needs no new factorisation:
    #   x' = x - Z U (D^-1 + U'Z U)^-1 U'x,  Z the inverse, U the changed rows, D the changes.
    #
    # A break is an R of hundreds of megohms: nothing cancels, as it would if a good conductance were taken away (tried: a
    # broken wire read 0 ohm). For an ohmmeter, the node of one probe is the zero (`reference`).
    class Prepared
      # network: a Network of resistors, sources and at most one sink, every node with some path to every other (templates
      # give each pin its insulation). Resistors named "insulation ..." are plain conductances: no fault sits in them.
      def initialize(network, reference: Network::GROUND)
        nodes = network.nodes - [reference]
        @index = nodes.each_with_index.to_h
        @branches = network.elements.reject { |element| leak?(element) || element.is_a?(Network::Sink) }
        @row_of = @branches.each_with_index.to_h { |element, k| [element.id, @index.size + k] }
        @drives = {}
        @lu = LU.new(assemble(network))
        @columns = {}
        @driven = {}
      end

      # Rows that a pair of nodes stands for; nil for the zero.
      def between(a, b)
        [@index[a], @index[b]]
      end

      # Rows of an element's own current.
      def current_of(id)
        [@row_of.fetch(id), nil]
      end

      def node?(name)
        @index.key?(name) || name == Network::GROUND
      end

      # All voltages and currents with every source at its strength. strengths: {source id => factor} where not 1, "sink" =>
      # amperes (0 when absent).
      def driven(strengths)
        @driven[strengths] ||= begin
          rhs = Array.new(@index.size + @branches.size, 0.0)
          @drives.each { |id, rows| rows.each { |row, value| rhs[row] += value * strengths.fetch(id, id == "sink" ? 0.0 : 1.0) if row } }
          @lu.solve(rhs)
        end
      end

      # Difference of two rows of a solution.
      def across(x, rows)
        (rows[0] ? x[rows[0]] : 0.0) - (rows[1] ? x[rows[1]] : 0.0)
      end

      # Across rows p for a unit driven into rows q.
      def transfer(p, q)
        z = 0.0
        z += across(column(q[0]), p) if q[0]
        z -= across(column(q[1]), p) if q[1]
        z
      end

      private

      def leak?(element)
        element.is_a?(Network::Resistor) && element.id.start_with?("insulation")
      end

      def assemble(network)
        size = @index.size + @branches.size
        matrix = Array.new(size) { Array.new(size, 0.0) }
        network.elements.each do |element|
          case element
          when Network::Resistor then leak?(element) ? leak(matrix, element) : branch(matrix, element)
          when Network::Source
            branch(matrix, element)
            @drives[element.id] = [[@row_of[element.id], element.volt]]
          when Network::Sink then @drives["sink"] = [[@index[element.a], -1.0], [@index[element.b], 1.0]]
          else raise ArgumentError, "#{element.class} cannot be prepared; use Solver"
          end
        end
        matrix
      end

      def leak(matrix, element)
        i, j = between(element.a, element.b)
        siemens = 1.0 / element.ohm
        matrix[i][i] += siemens if i
        matrix[j][j] += siemens if j
        return unless i && j

        matrix[i][j] -= siemens
        matrix[j][i] -= siemens
      end

      def branch(matrix, element)
        row = @row_of.fetch(element.id)
        between(element.a, element.b).zip([1.0, -1.0]) do |i, sign|
          next unless i

          matrix[row][i] += sign
          matrix[i][row] += sign
        end
        matrix[row][row] = -element.ohm
      end

      # The matrix is symmetric, so rows and columns of its inverse are one.
      def column(i)
        @columns[i] ||= begin
          unit = Array.new(@index.size + @branches.size, 0.0)
          unit[i] = 1.0
          @lu.solve(unit)
        end
      end
    end
  end
end
