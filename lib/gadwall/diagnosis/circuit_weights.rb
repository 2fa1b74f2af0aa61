# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # One circuit's atoms with their weights: prior times what the evidence says of them against the sound circuit.
    #
    # on: weights of atoms that leave the module its power; off: of those (as often as they are there) that take it.
    # Both [presence index][atom index]. odds: of some fault in this circuit against none, once scaled.
    class CircuitWeights
      attr_reader :circuit, :evidence, :priors, :on, :off, :faulty, :pairs

      # priors: by presence and atom (Priors#by_atom).
      def initialize(circuit, evidence, priors, presences, catalogue)
        @circuit = circuit
        @evidence = evidence
        @priors = priors
        @catalogue = catalogue
        weigh(presences)
      end

      # The weight of the sound circuit, on the scale of `on` and `faulty`.
      def sound
        evidence.sound
      end

      # The weight of the circuit, sound or faulty. Called after `scale`.
      def whole
        sound + faulty
      end

      # Sum of the weights of single faults that leave the power on.
      def single_fault_weight
        @single_fault_weight ||= by_fault.sum
      end

      # The same of those that take it.
      def power_loss_weight
        @power_loss_weight ||= by_fault(:off).sum
      end

      # second: how much rarer a further fault is; point: of the unknowns. Called once, by the posterior.
      def scale(second, point)
        key = [:pairs, evidence.weighed_by, priors.object_id, second, point, evidence.log_sound, evidence.sound_gap]
        @pairs = circuit.model.cached(key) { SameCircuit.pairs(self, second, @catalogue, point) }
        @faulty = second * (single_fault_weight + @pairs.sum(&:weight))
      end

      # By fault: the weight of its atoms. part: :on or :off.
      def by_fault(part = :on)
        (@by_fault ||= {})[part] ||= sums_by_fault(part == :on ? on : off || [])
      end

      private

      # Bare loops: they run over every atom of the vehicle for every assessment.
      def sums_by_fault(rows)
        fault_of = circuit.model.fault_of
        sums = Array.new(circuit.model.faults.size, 0.0)
        rows.each do |row|
          i = row.size
          sums[fault_of[i]] += row[i] while (i -= 1) >= 0
        end
        sums.freeze
      end

      def weigh(presences)
        all = evidence.ratios.each_with_index.map { |row, d| products(row, priors[d]) }
        unpowering = evidence.unpowering
        return @on = all unless unpowering

        @off =
          all.each_with_index.map do |row, d|
            row.each_with_index.map { |weight, i| weight * unpowering[i] * presences[d] }
          end
        @on = all.each_with_index.map { |row, d| row.each_with_index.map { |weight, i| weight - @off[d][i] } }
      end

      def products(left, right)
        i = -1
        left.map { |value| value * right[i += 1] }
      end
    end
  end
end
