# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # One circuit's atoms with their weights: prior times what the evidence says of them against the sound circuit.
    #
    # on: weights of atoms that leave the module its power; off: of those (as often as they are there) that take it
    # now; was_off: of those that take it now and then, and leave it at this moment. All [presence index][atom index].
    # off and was_off are nil where the circuit feeds no module, was_off also where no bus would miss it.
    class CircuitWeights
      attr_reader :circuit, :evidence, :priors, :on, :off, :was_off, :faulty, :pairs

      # priors: by presence and atom (Priors#by_atom); missed: is its module missed on a bus when it has no power?
      def initialize(circuit, evidence, priors, presences, catalogue, missed: false)
        @circuit = circuit
        @evidence = evidence
        @priors = priors
        @catalogue = catalogue
        @on = evidence.ratios.each_with_index.map { |row, d| products(row, priors[d]) }
        part(presences, missed) if evidence.unpowering
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

      # second: how much rarer a further fault is; point: of the unknowns. Called once, by the posterior.
      def scale(second, point)
        key = [:pairs, evidence.weighed_by, priors.object_id, second, point, evidence.log_sound, evidence.sound_gap]
        @pairs = circuit.model.cached(key) { SameCircuit.pairs(self, second, @catalogue, point) }
        @faulty = second * (single_fault_weight + @pairs.sum(&:weight))
      end

      # By fault: the weight of its atoms. part: :on, :off or :was_off.
      def by_fault(part = :on)
        (@by_fault ||= {})[part] ||= sums_by_fault(public_send(part) || [])
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

      # Parts what takes the module its power from what leaves it.
      def part(presences, missed)
        unpowering = evidence.unpowering
        @off = presences.each_with_index.map { |presence, d| products(@on[d], unpowering).map { |w| w * presence } }
        @on = without(@on, @off)
        return unless missed

        @was_off =
          presences.each_index.map { |d| d.zero? ? Array.new(unpowering.size, 0.0) : products(@on[d], unpowering) }
        @on = without(@on, @was_off)
      end

      def without(rows, others)
        rows.each_with_index.map { |row, d| row.each_with_index.map { |weight, i| weight - others[d][i] } }
      end

      def products(left, right)
        i = -1
        left.map { |value| value * right[i += 1] }
      end
    end
  end
end
