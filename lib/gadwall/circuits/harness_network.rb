# frozen_string_literal: true

module Gadwall
  module Circuits
    # Draws the network of a harness in one state of the vehicle. Element names: "wire@section" for a wire's run,
    # "wire@connector" for the contact in a connector, and the names of the template for what stands at the ends.
    class HarnessNetwork
      def initialize(harness, catalogue)
        @harness = harness
        @contact_ohm = catalogue.connector_value("contact_ohm")
        @insulation_ohm = catalogue.connector_value("insulation_ohm")
        @live_volt = catalogue.connector_value("live_volt")
      end

      # state: Harness::State. Returns a Network.
      def build(state, sink_ampere:)
        @network = Network.new
        @contacts =
          @harness.template["elements"]
            .select { |element| element["kind"] == "contact" }
            .to_h { |element| ["#{element["wire"]}@#{element["joint"]}", element] }
        @harness.wires.each { |wire| run(wire, state) }
        supply_rail
        @harness.template["elements"].each { |element| place(element, state, sink_ampere) }
        @network
      end

      private

      def run(wire, state)
        @harness.connectors.each { |connector| pin(wire, connector, state) }
        @harness.sections.each do |section|
          from = "#{wire.id}@#{section.from.id}.far"
          upto = "#{wire.id}@#{section.to.id}.near"
          if section.carries?(wire)
            @network.resistor("#{wire.id}@#{section.id}", from, upto, section.ohm_of(wire))
          else
            @network.resistor("#{wire.id} past #{section.id}", from, upto, PASSING_OHM)
          end
        end
      end

      # Both sides of the connector, each with its insulation to the body; the contact between them when it is mated.
      def pin(wire, connector, state)
        head = "#{wire.id}@#{connector.id}.near"
        tail = "#{wire.id}@#{connector.id}.far"
        @network.resistor("insulation #{head}", head, Network::GROUND, @insulation_ohm)
        @network.resistor("insulation #{tail}", tail, Network::GROUND, @insulation_ohm)
        if !connector.carries?(wire)
          @network.resistor("#{wire.id} past #{connector.id}", head, tail, PASSING_OHM)
        elsif !state.disconnected.include?(connector.id)
          @network.resistor("#{wire.id}@#{connector.id}", head, tail, contact_ohm("#{wire.id}@#{connector.id}", state))
        end
      end

      PASSING_OHM = 1.0e-4 # a wire that does not pass a connector or a section is one point there

      # A connector may hold more than its pins: a relay's contact, a wear loop.
      def contact_ohm(id, state)
        element = @contacts[id] or return @contact_ohm

        active?(element, state) ? value(element, "ohm") : element["rest_ohm"]
      end

      # The live wire that a chafed wire may touch.
      def supply_rail
        @network.source(
          "supply",
          "supply",
          Network::GROUND,
          @harness.values.fetch("supply_volt", @live_volt),
          ohm: 0.05
        )
      end

      def place(element, state, sink_ampere)
        return if element["kind"] == "contact"
        return at_rest(element) unless active?(element, state)

        a = @harness.node(element["a"])
        b = @harness.node(element["b"])
        case element["kind"]
        when "resistor"
          @network.resistor(element["id"], a, b, value(element, "ohm"))
        when "source"
          @network.source(element["id"], a, b, value(element, "volt"), ohm: value(element, "ohm"))
        when "sink"
          @network.sink(element["id"], a, b, sink_ampere, min_volt: value(element, "min_volt")) if sink_ampere.positive?
        end
      end

      def active?(element, state)
        (element["when"] || {}).all? do |key, wanted|
          wanted.is_a?(Array) ? wanted.include?(state[key]) : state[key] == wanted
        end
      end

      # What is left of an element that does not work in this state: its own resistance (a coil, a biasing resistor), or
      # nothing to speak of (a driver switched off, a sensor not fed, a bulb not fitted).
      def at_rest(element)
        ohm = element["rest"] == "cold" ? value(element, "ohm") : element["rest_ohm"]
        @network.resistor(element["id"], @harness.node(element["a"]), @harness.node(element["b"]), ohm) if ohm
      end

      def value(element, key)
        @harness.values.fetch(element.fetch(key)).to_f
      end
    end
  end
end
