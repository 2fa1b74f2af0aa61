# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Two faults in one circuit, which must be solved together: the line with both conditions in it. Only the strongest
    # faults of the circuit are paired (a beam), each at the severity that the readings favour.
    module SameCircuit
      # atoms: two atom indices; weight: prior of the one, times that of the other, times `second`, times what the
      # readings say of both together.
      Pair = Struct.new(:atoms, :weight, keyword_init: true)

      LEAST_READINGS = 2 # with fewer, too little was read to speak of two
      PARTNERS = 4 # so many faults for each reading that the leader does not explain
      PARTNERED = 3 # so many such readings

      # weights: CircuitWeights, with LEAST_READINGS at least; point: of the unknowns. Returns Array of Pair.
      def self.pairs(weights, second, catalogue, point)
        beam(weights, catalogue.model("pair_beam"), point)
          .combination(2)
          .filter_map { |pair| build(weights, pair, second, point) }
      end

      # The strongest atom of each of the strongest faults; and, where the strongest of all leaves a reading
      # unexplained, those that explain that reading best.
      def self.beam(weights, width, point)
        row = weights.atoms.on[0]
        best = strongest(weights) { |i| row[i] }.first(width)
        best |
          left_over(weights, best.first, point).flat_map do |densities|
            strongest(weights) { |i| densities[i] }.first(PARTNERS)
          end
      end

      # Atom indices, one of each fault, the strongest by the block first.
      def self.strongest(weights, &)
        atoms = weights.circuit.model.atoms
        best = atoms.each_index.group_by { |i| atoms[i].fault_index }.values.map { |same| same.max_by(&) }
        best.sort_by(&).reverse
      end

      # Of each reading that the leader explains no better than a slip of the hand: its densities, by atom.
      def self.left_over(weights, leader, point)
        weights
          .evidence
          .episodes
          .flat_map(&:rows)
          .filter_map do |row|
            present = row.table(weights.circuit.model, point).densities(row.observation.result).present
            present if (1 - row.error) * present[leader] < row.slack
          end
          .first(PARTNERED)
      end

      def self.build(weights, pair, second, point)
        first, other = pair.map { |i| weights.circuit.model.atoms[i] }
        return if one_thing?(first.fault, other.fault)

        evidence = weights.evidence
        log =
          evidence.scan_pair_log(*pair) +
            evidence.episodes.flat_map(&:rows).sum { |row| likelihood_log(weights.circuit, row, pair, point) }
        prior = weights.priors[0][pair[0]] * weights.priors[0][pair[1]] * second
        Pair.new(atoms: pair, weight: prior * evidence.share(log - evidence.sound_gap)).freeze
      end

      # Two ways to say that one wire is bad at one place are not two faults.
      def self.one_thing?(fault, other)
        fault.place == other.place && (fault.mode == other.mode || fault.target.intersect?(other.target))
      end

      # What one reading says of both together, against the sound circuit: natural logarithm.
      def self.likelihood_log(circuit, row, pair, point)
        table = row.table(circuit.model, point)
        result = row.observation.result
        row.log_ratio(density(circuit, row.observation, table, pair), table.normal_density(result))
      end

      # How likely a result is with both there; where a change has put one of them right before, with the other alone,
      # mostly.
      def self.density(circuit, observation, table, pair)
        result = observation.result
        both = table.pair_density(pair, result)
        left = pair.reject { |i| observation.changed&.include?(circuit.model.atoms[i].fault.place) }
        return both if left.size == 2

        alone = left.empty? ? table.normal_density(result) : table.densities(result).present[left.first]
        RowWeights.put_right(both, alone)
      end

      private_class_method :density, :beam, :strongest, :left_over, :build, :one_thing?, :likelihood_log
    end
  end
end
