# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What was examined of the vehicle so far: which readings speak against a place, which clear it, what was looked
    # into.
    class Examined
      TALK = %w[cleared compared].freeze # a code that stays away, a lamp that is out: no wire was measured

      attr_reader :posterior, :coverage, :body

      # posterior: Posterior; coverage: Coverage; body: Observations::Body.
      def initialize(posterior, coverage, body)
        @posterior = posterior
        @coverage = coverage
        @body = body
      end

      def system
        posterior.system
      end

      # Observations of a circuit, in log order.
      def of(circuit)
        (@of ||= body.observations.group_by { |each| each.circuit.id }).fetch(circuit.id, [])
      end

      # Was this test of the circuit done?
      def done?(circuit, test)
        of(circuit).any? { |each| each.test.id == test.id }
      end

      # Observations as they should be that cover a place of a circuit.
      def clearing(circuit, place)
        coverage.clearing(circuit.id, place)
      end

      # Readings that speak against the suspect's places, in any of its circuits.
      def accusing(suspect)
        suspect.members.flat_map { |circuit, fault| coverage.accusing(circuit.id, fault.place) }
      end

      # Was the suspect's place shown by a test that nothing but it can spoil: with the plug off, or a good signal fed
      # in? cleared: names of places of which other readings say that they did not spoil it.
      def isolated?(suspect, cleared = [])
        accusing(suspect).any? do |each|
          (coverage.places(suspect.circuit, each.test) - cleared) == [suspect.fault.place]
        end
      end

      # Names of the other places of the suspect's circuit that a reading clears. but: a reading that does not count.
      def cleared_places(suspect, but: nil)
        suspect.circuit.harness.places.select do |place|
          place != suspect.fault.place && clearing(suspect.circuit, place).any? { |each| !each.equal?(but) }
        end
      end

      # Of a cause that reaches several circuits: those members that a signal known to be good has shown dead.
      def isolated_members(suspect)
        suspect.members.select do |circuit, fault|
          coverage
            .accusing(circuit.id, fault.place)
            .any? { |each| coverage.places(circuit, each.test) == [fault.place] }
        end
      end

      # Did one of these tests show the circuit as it should be? names: ids, without the place where a test has several.
      def shown_sound?(circuit, *names)
        of(circuit).any? { |each| names.include?(each.test.id.split(".").first) && coverage.normal?(each) }
      end

      # Did the warning go with a change at this very place, and stay away since? Seen before and after, it needs no
      # second reading.
      def put_right?(suspect)
        changes =
          of(suspect.circuit).select do |each|
            each.test.record["changes"] == suspect.fault.place && each.result != "good"
          end
        changes.last&.result == "gone"
      end

      # Did the suspect's module answer a scan?
      def answered?(suspect)
        body.scans.any? { |scan| scan.answers(suspect.circuit.module) }
      end

      WATER_FROM = 0.0005 # below this the readings themselves speak against water in a connector

      # May water in a connector be what was read?
      def water_feared?(circuit, connector)
        posterior.places_of(circuit.id)["#{circuit.id}/#{connector.id}"] >= WATER_FROM
      end

      # Was a connector seen, or parted and cleaned? The block says of such an observation whether it counts; without
      # one each does. What no test looks into needs no look.
      def looked_into?(circuit, connector, &counts)
        looks = looks_into(circuit, connector)
        mine = of(circuit).select { |each| looks.include?(each.test.id) }
        looks.empty? || (counts ? mine.any?(&counts) : mine.any?)
      end

      # Ids, within the circuit, of the tests that look into a connector or clean it.
      def looks_into(circuit, connector)
        looks =
          circuit.model.tests.values.select do |test|
            (test.place == connector.id && test.kind == "table") || test.record["changes"] == connector.id
          end
        looks.map(&:id)
      end

      # Names of the wires and connectors from the module up to the plug of what hangs at the end. That plug is judged
      # with what it belongs to.
      def wiring(circuit)
        (circuit.harness.connectors[0..-2] || []).map(&:id) + circuit.harness.sections.map(&:id)
      end

      # Names of what is at the end of a circuit: the sensor, its connector, what turns before it.
      def end_places(circuit)
        harness = circuit.harness
        [harness.template["far_end"]["id"], harness.connectors.last&.id, *harness.extras.map { |each| each["id"] }]
      end

      # Does a test reach for this connector?
      def at_connector?(test, connector)
        test.access.any? { |key, _| key.split(":").last == connector.id }
      end
    end
  end
end
