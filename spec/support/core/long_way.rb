# frozen_string_literal: true

# The network of a state with a condition in it, built the long way: every element as it stands with the fault.
module LongWay
  def self.faulty_network(line, state, condition, ampere)
    elements =
      line
        .network(state, sink_ampere: ampere * condition.sink)
        .elements
        .map { |element| with_fault(element, condition) }
    nodes = elements.flat_map { |element| [element.a, element.b] }.to_set
    condition.bridges.each_with_index do |(a, b, ohm), i|
      if nodes.include?(a) && nodes.include?(b)
        elements << Gadwall::Circuits::Network::Resistor.new(id: "bridge#{i}", a: a, b: b, ohm: ohm)
      end
    end
    Gadwall::Circuits::Network.new(elements)
  end

  def self.with_fault(element, condition)
    copy = element.dup
    copy.ohm += condition.series[element.id] if condition.series[element.id] && copy.respond_to?(:ohm)
    copy.volt *= condition.drives[element.id] if condition.drives[element.id] && copy.respond_to?(:volt)
    copy
  end
end
