# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Wires that touch in a harness section read just like water in the connectors at its ends, so those are looked
    # into before the section is opened; and a module that pulls its bus down, or whose input is dead, reads like water
    # in its own connector.
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

        [section.from, section.to].select do |each|
          feared?(suspect.circuit, each) && !looked_into?(suspect.circuit, each)
        end
      end

      # The connector at which a module hangs on its bus.
      def bus_plug(suspect)
        suspect.circuit.harness.modules.find { |id, _| id == suspect.fault.place }&.last
      end

      MODULE_PLUG = "module_plug" # key of the access to what is in the connector of the control module

      # The connector of a module in which water would read just like the module; nil where there is none.
      def own_plug(suspect)
        plug = bus_plug(suspect)
        return suspect.circuit.harness.connectors.find { |each| each.with == MODULE_PLUG } if plug.nil?

        plug if suspect.fault.effect == "between"
      end

      # Looked into and dry, or dried without effect: a wet one is dried before the module is blamed.
      def own_plug_seen?(suspect)
        connector = own_plug(suspect)
        return true if connector.nil?

        asked =
          bus_plug(suspect) || drops_out?(suspect) || feared?(suspect.circuit, connector) ||
            looked_into?(suspect.circuit, connector)
        !asked || looked_into?(suspect.circuit, connector) { |each| DRY.include?(each.result) }
      end

      # What drops out is a contact before it is a module.
      def drops_out?(suspect)
        accusing(suspect).any? { |each| each.result == "dropouts" }
      end

      # May water in it be what was read?
      def feared?(circuit, connector)
        @posterior.places_of(circuit.id)["#{circuit.id}/#{connector.id}"] >= TWIN_FROM
      end

      DRY = %w[good same].freeze # a connector as it should be, or one that was cleaned and changed nothing

      # A silent module: its power and ground tested, and where they are good the bus at its connector. One that pulls
      # the bus down: the bus recovers without it, or it alone was measured.
      def member_tested?(suspect)
        bus_plug(suspect).nil? || member_test(suspect).nil?
      end

      # Id of the test that is still missing for a module on a bus, or nil.
      def member_test(suspect)
        return silent_member_test(suspect) if suspect.fault.mode == "silent"

        undone(suspect.circuit, "unplug_module.#{suspect.fault.place}") unless isolated_beside_cleared?(suspect)
      end

      def silent_member_test(suspect)
        id = "module_supply.#{suspect.fault.place}"
        missing = undone(suspect.circuit, id)
        return missing if missing || suspect.circuit.model.tests[id].nil?

        found = observations_of(suspect.circuit).select { |each| each.test.id == id }
        bus_at(suspect) unless found.any? { |each| each.result == "bad" }
      end

      # Full id of a test of the circuit that nobody did yet, or nil.
      def undone(circuit, id)
        test = circuit.model.tests[id]
        "#{circuit.id}.#{id}" if test && !done?(circuit, test)
      end

      # A test of the bus at the module's own connector, where none was done.
      def bus_at(suspect)
        plug = bus_plug(suspect)
        at_plug = ->(test) { test.numeric? && at_connector?(test, plug) }
        return if observations_of(suspect.circuit).any? { |each| at_plug.call(each.test) }

        best(suspect.circuit, &at_plug)
      end

      def observations_of(circuit)
        (@observations_of ||= @body.observations.group_by { |each| each.circuit.id }).fetch(circuit.id, [])
      end

      # Seen, or parted and cleaned. The block says of such an observation whether it counts; without one each does.
      def looked_into?(circuit, connector, &counts)
        looks = looks_into(circuit, connector)
        mine = observations_of(circuit).select { |each| looks.include?(each.test.id) }
        looks.empty? || (counts ? mine.any?(&counts) : mine.any?)
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
