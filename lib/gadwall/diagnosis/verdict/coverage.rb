# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Which places the readings so far have covered: a place is covered by a reading that some fault of that place would
    # have spoilt. Sound readings clear; odd ones accuse.
    class Coverage
      # posterior: Posterior, which knows what this vehicle's tests show; observations: Array of
      # Observations::Observation.
      def initialize(posterior, observations)
        @posterior = posterior
        @rows = observations.map { |observation| [observation, normal?(observation), places_of(observation)] }
      end

      # Observations with a result as it should be that cover the place ("front_left", "sensor").
      def clearing(circuit_id, place)
        matching(circuit_id, place, true)
      end

      # Observations with a result as it should not be that cover the place.
      def accusing(circuit_id, place)
        matching(circuit_id, place, false)
      end

      # Has a reading as it should be covered the place?
      def cleared?(circuit_id, place)
        clearing(circuit_id, place).any?
      end

      # Is this result what the sound circuit shows? observation: Observations::Observation.
      def normal?(observation)
        table = @posterior.table(observation.circuit, observation.test)
        table.good?(table.outcome_index(observation.result))
      end

      # Is it what the sound circuit shows at some value of what is unknown of the vehicle? For a reading by itself.
      def self.may_be_normal?(observation)
        model = observation.circuit.model
        points =
          model
            .unknowns_of(observation.test)
            .reduce([{}]) do |all, unknown|
              all.flat_map { |point| unknown.points.each_index.map { |k| point.merge(unknown.id => k) } }
            end
        points.any? do |point|
          table = model.table(observation.test, point)
          table.good?(table.outcome_index(observation.result))
        end
      end

      # How much of what can be wrong in a circuit, by how often it is met, one of these tests would have shown: 0..1.
      def self.share_shown(posterior, circuit, tests)
        tables = tests.uniq.map { |test| posterior.table(circuit, test) }
        faults = circuit.model.faults
        shown = faults.each_index.select { |k| tables.any? { |table| table.touches?(k) } }
        shown.sum { |k| faults[k].rate } / faults.sum(&:rate)
      end

      # Places of a circuit that a test covers.
      def places(circuit, test)
        @posterior.table(circuit, test).places
      end

      private

      # A warning that goes with a change tells of the place that was changed; one that stays tells of none.
      def places_of(observation)
        return places(observation.circuit, observation.test) unless observation.test.behaviour.looks_at_warnings?
        return [] if observation.result == "same"

        if observation.result == "good"
          places(observation.circuit, observation.test)
        else
          [observation.test.record["changes"]]
        end
      end

      def matching(circuit_id, place, sound)
        @rows
          .select do |observation, good, places|
            good == sound && observation.circuit.id == circuit_id && places.include?(place)
          end
          .map(&:first)
      end
    end
  end
end
