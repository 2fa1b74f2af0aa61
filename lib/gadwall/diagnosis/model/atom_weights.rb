# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # The weights of one circuit's atoms: prior times what the evidence says of them against the sound circuit. Most
    # circuits of a vehicle weigh the same before and after a reading, so they are kept with the circuit's model (`of`).
    #
    # on: weights of atoms that leave the module its power; off: of those (as often as they are there) that take it
    # now; was_off: of those that take it now and then, and leave it at this moment. All [presence index][atom index].
    # off and was_off are nil where the circuit feeds no module, was_off also where no bus would miss it.
    class AtomWeights
      LOW_SUPPLY = %w[supply_low valve_supply].freeze # claims of a supply that upsets the circuits of its module

      attr_reader :on, :off, :was_off

      # evidence: EvidenceWeights, settled; priors: by presence and atom (Priors#by_atom); missed: is its module missed
      # on a bus when it has no power? Returns AtomWeights.
      def self.of(evidence, priors, presences, missed:)
        evidence
          .model
          .cached([:atom_weights, evidence.ratios.object_id, priors.object_id, missed]) do
            new(evidence, priors, presences, missed)
          end
      end

      def initialize(evidence, priors, presences, missed)
        @model = evidence.model
        @presences = presences
        @by_fault = {}
        @by_place = {}
        @on = evidence.ratios.each_with_index.map { |row, d| products(row, priors[d]) }
        part(evidence.unpowering, presences, missed) if evidence.unpowering
      end

      # Of the atoms that leave the module its power: as far as they make its supply low. [presence index][atom index].
      def low
        @low ||=
          @presences.each_with_index.map { |presence, d| products(on[d], @model.monitors.raised(LOW_SUPPLY, presence)) }
      end

      # By fault: the weight of its atoms. part: :on, :off, :was_off or :low.
      def by_fault(part = :on)
        @by_fault[part] ||= sums_by_fault(public_send(part) || [])
      end

      # By place: the same.
      def by_place(part = :on)
        @by_place[part] ||= sums_by_place(by_fault(part))
      end

      # Sum of a part, as of by_fault.
      def sum(part = :on)
        by_fault(part).sum
      end

      # By presence: the strongest of the atoms that leave the power on.
      def peaks
        @peaks ||= on.map { |row| row.max || 0.0 }.freeze
      end

      private

      # Bare loops: they run over every atom of a circuit.
      def sums_by_fault(rows)
        fault_of = @model.fault_of
        sums = Array.new(@model.faults.size, 0.0)
        rows.each do |row|
          i = row.size
          sums[fault_of[i]] += row[i] while (i -= 1) >= 0
        end
        sums.freeze
      end

      def sums_by_place(by_fault)
        place_of = @model.place_of
        sums = Array.new(@model.places.size, 0.0)
        by_fault.each_with_index { |weight, fault| sums[place_of[fault]] += weight }
        sums.freeze
      end

      # Parts what takes the module its power from what leaves it.
      def part(unpowering, presences, missed)
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
