# frozen_string_literal: true

module Gadwall
  module Circuits
    # A network factorised once, to be read many times with small changes.
    #
    # The current of every wire, contact and part is an unknown of its own (modified nodal analysis: u_a - u_b - R i =
    # E). So a fault in series adds to one R, a bridge adds one conductance, and each is a change of rank one (Changed):
    # no fault needs a factorisation of its own.
    #
    # A break is an R of hundreds of megohms: nothing cancels, as it would if a good conductance were taken away (tried:
    # a broken wire read 0 ohm). For an ohmmeter, the node of one probe is the zero (`reference`).
    class Prepared
      # network: a Network of resistors, sources and at most one sink, every node with some path to every other
      # (templates give each pin its insulation). Resistors named "insulation ..." are plain conductances: no fault sits
      # in them.
      def initialize(network, reference: Network::GROUND)
        nodes = network.nodes - [reference]
        @index = nodes.each_with_index.to_h
        @branches = network.elements.reject { |element| leak?(element) || element.is_a?(Network::Sink) }
        @row_of = @branches.each_with_index.to_h { |element, k| [element.id, @index.size + k] }
        @zero = @index.size + @branches.size
        @drives = {}
        @lu = LU.new(assemble(network))
        @columns = {}
        @driven = {}
        @ports = {}
      end

      # The port between two nodes.
      def between(a, b)
        (@ports[a] ||= {})[b] ||= port(@index.fetch(a, @zero), @index.fetch(b, @zero))
      end

      # The port of an element's own current.
      def current_of(id)
        (@currents ||= {})[id] ||= port(@row_of.fetch(id), @zero)
      end

      # Does the network have this node?
      def node?(name)
        @index.key?(name) || name == Network::GROUND
      end

      # All voltages and currents with every source at its strength. strengths: {source id => factor} where not 1,
      # "sink" => amperes (0 when absent).
      def driven(strengths)
        @driven[strengths] ||= begin
          rhs = Array.new(@zero, 0.0)
          @drives.each do |id, rows|
            rows.each { |row, value| rhs[row] += value * strengths.fetch(id, id == "sink" ? 0.0 : 1.0) if row }
          end
          @lu.solve(rhs) << 0.0
        end
      end

      # The port and the volts of a source at full strength.
      def source(id)
        [current_of(id), @drives.fetch(id)[0][1]]
      end

      private

      def port(i, j)
        Port.new(i, j) { |from, to| column(from).zip(column(to)).map { |a, b| a - b } }
      end

      def leak?(element)
        element.is_a?(Network::Resistor) && element.id.start_with?("insulation")
      end

      def assemble(network)
        matrix = Array.new(@zero) { Array.new(@zero, 0.0) }
        network.elements.each do |element|
          case element
          when Network::Resistor
            leak?(element) ? leak(matrix, element) : branch(matrix, element)
          when Network::Source
            branch(matrix, element)
            @drives[element.id] = [[@row_of[element.id], element.volt]]
          when Network::Sink
            @drives["sink"] = [[@index[element.a], -1.0], [@index[element.b], 1.0]]
          else
            raise ArgumentError, "#{element.class} cannot be prepared; use Solver"
          end
        end
        matrix
      end

      def leak(matrix, element)
        i = @index[element.a]
        j = @index[element.b]
        siemens = 1.0 / element.ohm
        matrix[i][i] += siemens if i
        matrix[j][j] += siemens if j
        return unless i && j

        matrix[i][j] -= siemens
        matrix[j][i] -= siemens
      end

      def branch(matrix, element)
        row = @row_of.fetch(element.id)
        [[element.a, 1.0], [element.b, -1.0]].each do |node, sign|
          next unless (i = @index[node])

          matrix[row][i] += sign
          matrix[i][row] += sign
        end
        matrix[row][row] = -element.ohm
      end

      # A column of the inverse, with the row of the zero.
      def column(i)
        @columns[i] ||= begin
          unit = Array.new(@zero, 0.0)
          unit[i] = 1.0 if i < @zero
          (i < @zero ? @lu.solve(unit) : unit) << 0.0
        end
      end
    end
  end
end
