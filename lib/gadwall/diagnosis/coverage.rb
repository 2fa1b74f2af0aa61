# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Which places the readings so far have covered: a place is covered by a reading that some fault of that place would
    # have spoilt. Sound readings clear; odd ones accuse.
    class Coverage
      # system: Vehicle::System; observations: Array of Evidence::Observation.
      def initialize(system, observations)
        @system = system
        @rows = observations.map { |observation| [observation, self.class.normal?(observation), places(observation)] }
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

      # As Coverage.normal?.
      def normal?(observation)
        self.class.normal?(observation)
      end

      # Is this result what a sound circuit shows? observation: Evidence::Observation.
      def self.normal?(observation)
        table = observation.circuit.model.table(observation.test)
        table.good?(table.outcome_index(observation.result))
      end

      # Places that a test covers.
      def self.places(model, test)
        table = model.table(test)
        model.faults.each_index.select { |k| table.touches?(k) }.map { |k| model.faults[k].place }.uniq
      end

      private

      def places(observation)
        self.class.places(observation.circuit.model, observation.test)
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
