# frozen_string_literal: true

module Gadwall
  module Circuits
    # A network as plain data: named nodes and the elements between them. "ground" is the reference node.
    # Builders return self, so that a network reads like its drawing. Ohms, volts, amperes throughout.
    class Network
      GROUND = "ground"

      Resistor = Struct.new(:id, :a, :b, :ohm, keyword_init: true)
      # Holds a at +volt over b, behind `ohm` (0 is an ideal source).
      Source = Struct.new(:id, :a, :b, :volt, :ohm, keyword_init: true)
      # Drives `ampere` out of b through the outside into a: the current leaves node a and enters node b inside.
      CurrentSource = Struct.new(:id, :a, :b, :ampere, keyword_init: true)
      Switch = Struct.new(:id, :a, :b, :closed, keyword_init: true)
      # An ammeter in the harness: no burden. Its reading is the current from a to b.
      Ammeter = Struct.new(:id, :a, :b, keyword_init: true)
      # Draws `ampere` from a to b as long as at least `min_volt` stands across it; below, it acts as a resistor
      # min_volt/ampere. An active wheel-speed sensor at one of its two levels.
      Sink =
        Struct.new(:id, :a, :b, :ampere, :min_volt, keyword_init: true) do
          # Ohms that it is below its least voltage.
          def starved_ohm
            min_volt / ampere
          end
        end

      attr_reader :elements

      def initialize(elements = [])
        @elements = elements
      end

      # id: of the element; a, b: nodes; ohm: above 0. Raises ArgumentError.
      def resistor(id, a, b, ohm)
        raise ArgumentError, "resistor #{id}: #{ohm} ohm; must be above 0" unless ohm.positive?

        add Resistor.new(id: id, a: a, b: b, ohm: ohm.to_f)
      end

      # volt: of node a above b; ohm: inside it.
      def source(id, a, b, volt, ohm: 0.0)
        add Source.new(id: id, a: a, b: b, volt: volt.to_f, ohm: ohm.to_f)
      end

      # ampere: from a through the source to b.
      def current_source(id, a, b, ampere)
        add CurrentSource.new(id: id, a: a, b: b, ampere: ampere.to_f)
      end

      # closed: true or false.
      def switch(id, a, b, closed:)
        add Switch.new(id: id, a: a, b: b, closed: closed)
      end

      # A branch without resistance whose current is read.
      def ammeter(id, a, b)
        add Ammeter.new(id: id, a: a, b: b)
      end

      # ampere: that it draws from a to b; min_volt: below which it is a resistor.
      def sink(id, a, b, ampere, min_volt:)
        add Sink.new(id: id, a: a, b: b, ampere: ampere.to_f, min_volt: min_volt.to_f)
      end

      # Sorted names of all nodes, ground included.
      def nodes
        ([GROUND] + elements.flat_map { |element| [element.a, element.b] }).uniq
      end

      # id: of an element. Returns it, or nil.
      def [](id)
        elements.find { |element| element.id == id }
      end

      private

      def add(element)
        @elements << element
        self
      end
    end
  end
end
