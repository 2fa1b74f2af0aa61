# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # One circuit with the weights of its faults (AtomWeights), of two at once in it, and of all of them together.
    class CircuitWeights
      # atoms: AtomWeights; sound: the weight of the sound circuit, on the same scale.
      attr_reader :circuit, :evidence, :priors, :atoms, :sound, :faulty, :pairs

      # priors: by presence and atom (Priors#by_atom); missed: is its module missed on a bus when it has no power?
      def initialize(circuit, evidence, priors, presences, catalogue, missed: false)
        @circuit = circuit
        @evidence = evidence
        @priors = priors
        @catalogue = catalogue
        @sound = evidence.sound
        @atoms = AtomWeights.of(evidence, priors, presences, missed: missed)
      end

      # The weight of the circuit, sound or faulty. Called after `scale`.
      def whole
        @whole ||= sound + faulty
      end

      # Sum of the weights of single faults that leave the power on.
      def single_fault_weight
        @single_fault_weight ||= atoms.sum
      end

      # second: how much rarer a further fault is; point: of the unknowns. Called once, by the posterior.
      def scale(second, point)
        @pairs = evidence.observations.size < SameCircuit::LEAST_READINGS ? [] : pairs_at(second, point)
        @faulty = second * (single_fault_weight + @pairs.sum(&:weight))
      end

      private

      def pairs_at(second, point)
        key = [:pairs, evidence.weighed_by, priors.object_id, second, point, evidence.log_sound, evidence.sound_gap]
        circuit.model.cached(key) { SameCircuit.pairs(self, second, @catalogue, point) }
      end
    end
  end
end
