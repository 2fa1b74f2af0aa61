# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Circuits without power because a fuse in front of them was seen blown. A new fuse is fitted, and anything behind
    # it powered, only once ohms to ground have shown that it will hold (common practice).
    class BlownFuses
      BLOWN = "blown" # what a look at a fuse box calls it
      GROUND = "ground" # the probe on the body

      # system: Vehicle::System; observations: Array of Observations::Observation.
      def initialize(system, observations)
        @system = system
        @least_ohm = system.catalogue.model("behind_fuse_ohm")
        @dead = observations.select { |each| each.result == BLOWN }.map { |each| each.circuit.id }
        @dead -= observations.select { |each| holds?(each) }.map { |each| each.circuit.id }
      end

      # Is there no power in this circuit, nor in the module that reads it? circuit: Vehicle::System::Circuit.
      def dead?(circuit)
        return false if @dead.empty?

        supply = circuit.module && @system.supply_of(circuit.module)
        @dead.include?(circuit.id) || (!supply.nil? && @dead.include?(supply.id))
      end

      private

      # Does the reading show that nothing behind the fuse leads to ground?
      def holds?(observation)
        test = observation.test
        return false unless test.kind == "ohms" && test.probes.include?(GROUND)

        observation.result.over_limit? || observation.result.value >= @least_ohm
      end
    end
  end
end
