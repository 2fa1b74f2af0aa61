# frozen_string_literal: true

module Gadwall
  module Circuits
    # Which nodes hang together by a path that can carry direct current. A current source does not tie: without a
    # conducting path its current has nowhere to go. A sink does: starved, it is a resistor. Union-find; a node alone is
    # an island of its own.
    class Islands
      CONDUCTING = [Network::Resistor, Network::Source, Network::Ammeter].freeze

      def initialize(network)
        @parent = network.nodes.to_h { |node| [node, node] }
        network.elements.each { |element| join(element.a, element.b) if conducts?(element) }
      end

      # Are two nodes joined by anything that conducts?
      def together?(a, b)
        root(a) == root(b)
      end

      # One node of each island that has no path to ground, to serve as its zero.
      def floating_references
        @parent
          .keys
          .group_by { |node| root(node) }
          .reject { |_, nodes| nodes.include?(Network::GROUND) }
          .map { |_, nodes| nodes.first }
      end

      private

      def conducts?(element)
        CONDUCTING.include?(element.class) || (element.is_a?(Network::Switch) && element.closed) ||
          element.is_a?(Network::Sink)
      end

      def root(node)
        node = @parent[node] while @parent[node] != node
        node
      end

      def join(a, b)
        @parent[root(a)] = root(b)
      end
    end
  end
end
