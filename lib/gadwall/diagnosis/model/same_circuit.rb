# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Two faults in one circuit, which must be solved together: the line with both conditions in it. Only the strongest
    # faults of the circuit are paired (a beam), each at the severity that the readings favour.
    class SameCircuit
      # atoms: two atom indices; weight: prior of the one, times that of the other, times `second`, times what the
      # readings say of both together.
      Pair = Struct.new(:atoms, :weight, keyword_init: true)
      # One reading with what its test shows. row: Readings::Row; table: Tests::TestTable.
      Read = Struct.new(:row, :table)

      LEAST_READINGS = 2 # with fewer, too little was read to speak of two
      PARTNERS = 4 # so many faults for each reading that the leader does not explain
      PARTNERED = 3 # so many such readings

      # weights: CircuitWeights, with LEAST_READINGS at least; second: how much rarer a further fault is; point: of the
      # unknowns. Returns Array of Pair.
      def self.pairs(weights, second, catalogue, point)
        new(weights, second, point).pairs(catalogue.model("pair_beam"))
      end

      def initialize(weights, second, point)
        @weights = weights
        @evidence = weights.evidence
        @model = weights.circuit.model
        @second = second
        @read = @evidence.episodes.flat_map(&:rows).map { |row| Read.new(row, row.table(@model, point)) }
      end

      # width: so many faults are paired with each other. Array of Pair.
      def pairs(width)
        beam(width).combination(2).filter_map { |pair| build(pair) }
      end

      private

      # The strongest atom of each of the strongest faults; and, where the strongest of all leaves a reading
      # unexplained, those that explain that reading best.
      def beam(width)
        best = strongest(@weights.atoms.on[0]).first(width)
        best | left_over(best.first).flat_map { |densities| strongest(densities).first(PARTNERS) }
      end

      # Atom indices, one of each fault, the strongest first. by_atom: how strong.
      def strongest(by_atom)
        best = @model.atoms_by_fault.map { |same| same.max_by { |i| by_atom[i] } }
        best.sort_by { |i| by_atom[i] }.reverse
      end

      # Of each reading that the leader explains no better than a slip of the hand: its densities, by atom.
      def left_over(leader)
        left =
          @read.lazy.filter_map do |read|
            present = read.table.densities(read.row.observation.result).present
            present if (1 - read.row.error) * present[leader] < read.row.slack
          end
        left.first(PARTNERED)
      end

      def build(pair)
        first, other = pair.map { |i| @model.atoms[i].fault }
        return if one_thing?(first, other)

        log = @evidence.scan_pair_log(*pair) + @read.sum { |read| likelihood_log(read, pair) }
        prior = @weights.priors[0][pair[0]] * @weights.priors[0][pair[1]] * @second
        Pair.new(atoms: pair, weight: prior * @evidence.share(log - @evidence.sound_gap)).freeze
      end

      # Two ways to say that one wire is bad at one place are not two faults.
      def one_thing?(fault, other)
        fault.place == other.place && (fault.mode == other.mode || fault.target.intersect?(other.target))
      end

      # What one reading says of both together, against the sound circuit: natural logarithm.
      def likelihood_log(read, pair)
        normal = read.table.normal_density(read.row.observation.result)
        read.row.log_ratio(density(read, pair, normal), normal)
      end

      # How likely a result is with both there; where a change has put one of them right before, with the other alone,
      # mostly. normal: the same with the circuit sound.
      def density(read, pair, normal)
        observation = read.row.observation
        both = read.table.pair_density(pair, observation.result)
        left = pair.reject { |i| observation.changed&.include?(@model.atoms[i].fault.place) }
        return both if left.size == 2

        alone = left.empty? ? normal : read.table.densities(observation.result).present[left.first]
        RowWeights.put_right(both, alone)
      end
    end
  end
end
