# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Wires that touch in a harness section read just like water in the connectors at its ends, so those are looked
      # into before the section is opened.
      class Ends < Need
        TEXT = "Connectors at both ends of the section inspected"
        TOUCHING = %w[to_ground between].freeze # effects that water in a connector has as well

        # As of Need.
        def met?(suspect)
          unseen(suspect).empty?
        end

        # As of Need.
        def tests(suspect)
          circuit = suspect.circuit
          unseen(suspect).map { |connector| "#{circuit.id}.#{examined.looks_into(circuit, connector).first}" }
        end

        private

        # Of a section in which wires touch, the connectors at its ends that nobody has looked into though water there
        # reads just like it. Array of Circuits::Harness::Connector.
        def unseen(suspect)
          circuit = suspect.circuit
          section = circuit.harness.sections.find { |each| each.id == suspect.fault.place }
          return [] unless section && TOUCHING.include?(suspect.fault.effect)

          [section.from, section.to].select do |each|
            examined.water_feared?(circuit, each) && !examined.looked_into?(circuit, each)
          end
        end
      end
    end
  end
end
