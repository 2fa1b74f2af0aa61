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
        @sink = network.elements.grep(Network::Sink).first
        matrix, @drives = assemble(network, omit)
        @lu = LU.new(matrix)
        @columns = {}
        @x = @drives.transform_values { |injections| response(injections) }
      end

      def node?(name)
        name == @reference || @index.key?(name)
      end

      # Volts from b to a with the changes in place. drives: factors by source id, for sources that differ from the
      # prepared ones (0 is off). sink_ampere: what the sink draws, or 0.
      def volts(a, b, changes: [], drives: {}, sink_ampere: 0.0)
        return driven(a, b, changes, drives, 0.0) unless @sink && sink_ampere.positive?

        across = driven(@sink.a, @sink.b, changes, drives, sink_ampere)
        return driven(a, b, changes, drives, sink_ampere) if across >= @sink.min_volt

        starved = Change.new(@sink.a, @sink.b, sink_ampere / @sink.min_volt)
        driven(a, b, changes + [starved], drives, 0.0)
      end

      # Current that the sink really draws in that state.
      def sink_amperes(changes: [], drives: {}, sink_ampere: 0.0)
        across = driven(@sink.a, @sink.b, changes, drives, sink_ampere)
        return sink_ampere if across >= @sink.min_volt

        starved = Change.new(@sink.a, @sink.b, sink_ampere / @sink.min_volt)
        [driven(@sink.a, @sink.b, changes + [starved], drives, 0.0) * starved.siemens, 0.0].max
      end

      # Ohms between a and b, sources off.
      def ohms(a, b, changes: [])
        probe = [index(a), index(b)]
        base = impedance(probe, probe)
        correct(base, changes, ->(branch) { impedance(branch, probe) }, probe)
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

      def driven(a, b, changes, drives, sink_ampere)
        probe = [index(a), index(b)]
        value = ->(branch) { drop(branch, drives, sink_ampere) }
        correct(value.call(probe), changes, value, probe)
      end

      # Volts across a branch in the unchanged network.
      def drop(branch, drives, sink_ampere)
        total = 0.0
        @x.each do |id, x|
          factor = id == "sink" ? sink_ampere : drives.fetch(id, 1.0)
          next if factor.zero?

          total += factor * across(x, branch)
        end
        total
      end

      # Volts across branch p for one ampere through branch q.
      def impedance(p, q)
        c, d = q
        z = 0.0
        z += across(column(c), p) if c
        z -= across(column(d), p) if d
        z
      end

      def across(column, branch)
        (branch[0] ? column[branch[0]] : 0.0) - (branch[1] ? column[branch[1]] : 0.0)
      end

      def correct(base, changes, value, probe)
        case changes.size
        when 0 then base
        when 1
          branch = [index(changes[0].a), index(changes[0].b)]
          g = changes[0].siemens
          base - (impedance(probe, branch) * g * value.call(branch) / (1.0 + (g * impedance(branch, branch))))
        else correct_many(base, changes, value, probe)
        end
      end

      # (I + D E'ZE) y = D E'x ; x' = x - Z E y. Gaussian elimination in place: two or three rows.
      def correct_many(base, changes, value, probe)
        branches = changes.map { |change| [index(change.a), index(change.b)] }
        rows = changes.each_index.map do |i|
          g = changes[i].siemens
          branches.each_index.map { |j| (i == j ? 1.0 : 0.0) + (g * impedance(branches[i], branches[j])) } << (g * value.call(branches[i]))
        end
        y = eliminate(rows)
        base - branches.each_with_index.sum { |branch, i| impedance(probe, branch) * y[i] }
      end

      def eliminate(rows)
        n = rows.size
        (0...n).each do |k|
          best = (k...n).max_by { |i| rows[i][k].abs }
          rows[k], rows[best] = rows[best], rows[k]
          (k + 1...n).each do |i|
            factor = rows[i][k] / rows[k][k]
            (k..n).each { |j| rows[i][j] -= factor * rows[k][j] }
          end
        end
        (n - 1).downto(0).each_with_object(Array.new(n)) do |i, y|
          y[i] = (rows[i][n] - (i + 1...n).sum { |j| rows[i][j] * y[j] }) / rows[i][i]
        end
      end
    end
  end
end
