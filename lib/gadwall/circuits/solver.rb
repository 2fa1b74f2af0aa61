# frozen_string_literal: true

module Gadwall
  module Circuits
    # Modified nodal analysis (Ho, Ruehli, Brennan 1975; from memory) of a resistive network: one row for each node but
    # ground, one for each element whose current is an unknown (ideal source, closed switch, ammeter).
    #
    # Floating parts are no error: each island without a path to ground gets a zero of its own, and a reading between
    # islands is nil ("floating"). Sinks are solved by trial: drawing their current, or starved, until none changes.
    class Solver
      # What a solved network shows.
      class Solution
        def initialize(voltages, currents, islands)
          @voltages = voltages
          @currents = currents
          @islands = islands
        end

        # Volts from b to a, as an ideal meter would show; nil when no path ties the two.
        def volts(a, b = Network::GROUND)
          return nil unless @islands.together?(a, b)

          @voltages.fetch(a) - @voltages.fetch(b)
        end

        # Amperes through the element, from its a to its b.
        def amperes(id)
          @currents.fetch(id)
        end
      end

      # Raises SingularNetworkError for contradicting ideal sources.
      def self.solve(network)
        new(network).solution
      end

      # What an ohmmeter shows between a and b: sources off, its own current; Infinity where no path is.
      def self.ohms(network, a, b)
        return 0.0 if a == b

        dead = Network.new(network.elements.filter_map { |element| without_drive(element) })
        [a, b].each { |node| dead.resistor("lead #{node}", node, "lead #{node}", 1.0) unless dead.nodes.include?(node) }
        return Float::INFINITY unless Islands.new(dead).together?(a, b)

        dead.current_source("meter", b, a, 1.0)
        solve(dead).volts(a, b)
      end

      def self.without_drive(element)
        case element
        when Network::Source
          return Network::Switch.new(id: element.id, a: element.a, b: element.b, closed: true) if element.ohm.zero?

          Network::Resistor.new(id: element.id, a: element.a, b: element.b, ohm: element.ohm)
        when Network::CurrentSource, Network::Sink
          nil
        else
          element
        end
      end
      private_class_method :without_drive

      def initialize(network)
        @network = network
        @islands = Islands.new(network)
        grounds = [Network::GROUND] + @islands.floating_references
        @index = (network.nodes - grounds).each_with_index.to_h
        @branches = network.elements.select { |element| current_unknown?(element) }
      end

      # Returns a Solution: voltages in V, currents in A. Raises SolveError for a network without one.
      def solution
        starved = []
        (@network.elements.size + 1).times do
          solution = solve_with(starved)
          now = sinks.select { |sink| solution.volts(sink.a, sink.b) < sink.min_volt * (1 - 1e-12) }.map(&:id)
          return solution if now == starved

          starved = now
        end
        solve_with(starved)
      end

      private

      def sinks
        @network.elements.grep(Network::Sink)
      end

      def current_unknown?(element)
        case element
        when Network::Source
          element.ohm.zero?
        when Network::Switch
          element.closed
        when Network::Ammeter
          true
        else
          false
        end
      end

      def solve_with(starved)
        size = @index.size + @branches.size
        @matrix = Array.new(size) { Array.new(size, 0.0) }
        @rhs = Array.new(size, 0.0)
        @network.elements.each { |element| stamp(element, starved) }
        x = size.zero? ? [] : LU.new(@matrix).solve(@rhs)
        voltages = @network.nodes.to_h { |node| [node, @index[node] ? x[@index[node]] : 0.0] }
        Solution.new(voltages, currents(voltages, x, starved), @islands)
      end

      def stamp(element, starved)
        case element
        when Network::Resistor
          conductance(element.a, element.b, 1.0 / element.ohm)
        when Network::CurrentSource
          injection(element.a, element.b, element.ampere) if @islands.together?(element.a, element.b)
        when Network::Sink
          if starved.include?(element.id)
            conductance(element.a, element.b, 1.0 / element.starved_ohm)
          else
            injection(element.a, element.b, element.ampere)
          end
        when Network::Source
          element.ohm.zero? ? branch(element, element.volt) : norton(element)
        when Network::Switch
          branch(element, 0.0) if element.closed
        when Network::Ammeter
          branch(element, 0.0)
        end
      end

      def norton(source)
        conductance(source.a, source.b, 1.0 / source.ohm)
        injection(source.b, source.a, source.volt / source.ohm)
      end

      def conductance(a, b, siemens)
        i = @index[a]
        j = @index[b]
        @matrix[i][i] += siemens if i
        @matrix[j][j] += siemens if j
        return unless i && j

        @matrix[i][j] -= siemens
        @matrix[j][i] -= siemens
      end

      def injection(from, to, ampere)
        @rhs[@index[from]] -= ampere if @index[from]
        @rhs[@index[to]] += ampere if @index[to]
      end

      def branch(element, volt)
        row = @index.size + @branches.index(element)
        [[element.a, 1.0], [element.b, -1.0]].each do |node, sign|
          next unless (i = @index[node])

          @matrix[row][i] += sign
          @matrix[i][row] += sign
        end
        @rhs[row] = volt
      end

      def currents(voltages, x, starved)
        @network.elements.to_h do |element|
          [element.id, current(element, voltages[element.a] - voltages[element.b], x, starved)]
        end
      end

      def current(element, volts, x, starved)
        return x[@index.size + @branches.index(element)] if @branches.include?(element)

        case element
        when Network::Resistor
          volts / element.ohm
        when Network::Source
          (volts - element.volt) / element.ohm
        when Network::CurrentSource
          @islands.together?(element.a, element.b) ? element.ampere : 0.0
        when Network::Sink
          starved.include?(element.id) ? volts / element.starved_ohm : element.ampere
        else
          0.0
        end
      end
    end
  end
end
