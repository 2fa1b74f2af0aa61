# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # One circuit's atoms with their weights: prior times what the evidence says of them against the sound circuit.
    #
    # on: weights of atoms that leave the module its power; off: of those (as often as they are there) that take it.
    # Both [presence index][atom index]. odds: of some fault in this circuit against none, once scaled.
    class CircuitWeights
      attr_reader :circuit, :evidence, :priors, :on, :off, :faulty, :pairs

      def initialize(circuit, evidence, priors, presences, catalogue)
        @circuit = circuit
        @evidence = evidence
        @priors = priors.by_atom(circuit, presences)
        @catalogue = catalogue
        weigh(presences)
      end

      # Sum of the priors: what is believed of the circuit before anything was seen.
      def prior
        @prior ||= priors.sum(&:sum)
      end

      # The weight of the sound circuit, on the scale of `on` and `faulty`.
      def sound
        evidence.sound
      end

      # Sum of the weights of single faults that leave the power on.
      def single_fault_weight
        @single_fault_weight ||= on.sum(&:sum)
      end

      # second: how much rarer a further fault is. Called once, by the posterior.
      def scale(second)
        @pairs = SameCircuit.pairs(self, second, @catalogue)
        @faulty = second * (single_fault_weight + @pairs.sum(&:weight))
      end

      # By fault: the weight of its atoms. part: :on or :off.
      def by_fault(part = :on)
        sums = Array.new(circuit.model.faults.size, 0.0)
        rows = part == :on ? on : off
        rows&.each { |row| row.each_with_index { |weight, i| sums[circuit.model.atoms[i].fault_index] += weight } }
        sums
      end

      # Full names of this circuit's places, and by atom the place that it belongs to, as an index of these.
      def places
        named.first
      end

      def place_of
        named.last
      end

      private

      def named
        @named ||=
          circuit
            .model
            .cached([:places, circuit.id]) do
              own = circuit.model.atoms.map { |atom| "#{circuit.id}/#{atom.fault.place}" }
              places = own.uniq.freeze
              index = places.each_with_index.to_h
              [places, own.map { |place| index.fetch(place) }.freeze].freeze
            end
      end

      def weigh(presences)
        all =
          evidence.ratios.each_with_index.map { |row, d| row.each_with_index.map { |ratio, i| ratio * priors[d][i] } }
        unpowering = evidence.unpowering
        return @on = all unless unpowering

        @off =
          all.each_with_index.map do |row, d|
            row.each_with_index.map { |weight, i| weight * unpowering[i] * presences[d] }
          end
        @on = all.each_with_index.map { |row, d| row.each_with_index.map { |weight, i| weight - @off[d][i] } }
      end
    end
  end
end
