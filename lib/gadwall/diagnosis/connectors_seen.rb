# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Wires that touch in a harness section read just like water in the connectors at its ends, so those are looked
    # into before the section is opened; and a module that pulls its bus down reads like water in its own connector.
    # Part of Gates, which has the readings.
    module ConnectorsSeen
      private

      def ends_seen?(suspect)
        ends_unseen(suspect).empty?
      end

      TOUCHING = %w[to_ground between].freeze # effects that water in a connector has as well

      TWIN_FROM = 0.0005 # below this the readings themselves speak against water in a connector

      # Of a section in which wires touch, the connectors at its ends that nobody has looked into though water there
      # reads just like it. Array of Circuits::Harness::Connector.
      def ends_unseen(suspect)
        section = suspect.circuit.harness.sections.find { |each| each.id == suspect.fault.place }
        return [] unless section && TOUCHING.include?(suspect.fault.effect)

        chances = @posterior.places_of(suspect.circuit.id)
        [section.from, section.to].select do |each|
          chances["#{suspect.circuit.id}/#{each.id}"] >= TWIN_FROM && !looked_into?(suspect.circuit, each)
        end
      end

      # The connector at which a module hangs on its bus, where water would pull the bus down just like the module.
      def own_plug(suspect)
        suspect.circuit.harness.modules.find { |id, _| id == suspect.fault.place }&.last
      end

      def own_plug_seen?(suspect)
        connector = own_plug(suspect)
        connector.nil? || suspect.fault.effect != "between" || looked_into?(suspect.circuit, connector)
      end

      # Seen, or parted and cleaned.
      def looked_into?(circuit, connector)
        looks = looks_into(circuit, connector)
        looks.empty? || @body.observations.any? { |each| each.circuit.id == circuit.id && looks.include?(each.test.id) }
      end

      # Ids, within the circuit, of the tests that look into a connector or clean it.
      def looks_into(circuit, connector)
        circuit
          .model
          .tests
          .values
          .select do |test|
            (test.place == connector.id && test.kind == "table") || test.record["changes"] == connector.id
          end
          .map(&:id)
      end
    end
  end
end
