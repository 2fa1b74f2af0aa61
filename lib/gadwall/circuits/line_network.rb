# frozen_string_literal: true

module Gadwall
  module Circuits
    # Draws the network of a line in one state of the vehicle. Element names: "wire@section" for a wire's run,
    # "wire@joint" for the contact in a joint, and the names of the template for what stands at the ends.
    class LineNetwork
      def initialize(line, catalogue)
        @line = line
        @contact_ohm = catalogue.joint_value("contact_ohm")
        @insulation_ohm = catalogue.joint_value("insulation_ohm")
        @live_volt = catalogue.joint_value("live_volt")
      end

      # state: Line::State. Returns a Network.
      def build(state, sink_ampere:)
        @network = Network.new
        @contacts = @line.template["elements"].select { |element| element["kind"] == "contact" }.to_h { |element| ["#{element['wire']}@#{element['joint']}", element] }
        @line.wires.each { |wire| run(wire, state) }
        supply_rail
        @line.template["elements"].each { |element| place(element, state, sink_ampere) }
        @network
      end

      private

      def run(wire, state)
        @line.joints.each { |joint| pin(wire, joint, state) }
        @line.sections.each do |section|
          @network.resistor("#{wire.id}@#{section.id}", "#{wire.id}@#{section.from.id}.tail", "#{wire.id}@#{section.to.id}.head", section.ohm)
        end
      end

      # Both sides of the joint, each with its insulation to the body; the contact between them when it is mated.
      def pin(wire, joint, state)
        head = "#{wire.id}@#{joint.id}.head"
        tail = "#{wire.id}@#{joint.id}.tail"
        @network.resistor("insulation #{head}", head, Network::GROUND, @insulation_ohm)
        @network.resistor("insulation #{tail}", tail, Network::GROUND, @insulation_ohm)
        @network.resistor("#{wire.id}@#{joint.id}", head, tail, contact_ohm("#{wire.id}@#{joint.id}", state)) unless state.apart.include?(joint.id)
      end

      # A joint may hold more than its pins: a relay's contact, a wear loop.
      def contact_ohm(id, state)
        element = @contacts[id] or return @contact_ohm

        active?(element, state) ? value(element, "ohm") : element["rest_ohm"]
      end

      # The live wire that a chafed wire may touch.
      def supply_rail
        @network.source("supply", "supply", Network::GROUND, @line.values.fetch("supply_volt", @live_volt), ohm: 0.05)
      end

      def place(element, state, sink_ampere)
        return if element["kind"] == "contact"
        return at_rest(element) unless active?(element, state)

        a = @line.node(element["a"])
        b = @line.node(element["b"])
        case element["kind"]
        when "resistor" then @network.resistor(element["id"], a, b, value(element, "ohm"))
        when "source" then @network.source(element["id"], a, b, value(element, "volt"), ohm: value(element, "ohm"))
        when "sink" then @network.sink(element["id"], a, b, sink_ampere, min_volt: value(element, "min_volt")) if sink_ampere.positive?
        end
      end

      def active?(element, state)
        (element["when"] || {}).all? { |key, wanted| wanted.is_a?(Array) ? wanted.include?(state[key]) : state[key] == wanted }
      end

      # What is left of an element that does not work in this state: its own resistance (a coil, a biasing resistor), or
      # nothing to speak of (a driver switched off, a sensor not fed, a bulb not fitted).
      def at_rest(element)
        ohm = element["rest"] == "cold" ? value(element, "ohm") : element["rest_ohm"]
        @network.resistor(element["id"], @line.node(element["a"]), @line.node(element["b"]), ohm) if ohm
      end

      def value(element, key)
        @line.values.fetch(element.fetch(key)).to_f
      end
    end
  end
end
