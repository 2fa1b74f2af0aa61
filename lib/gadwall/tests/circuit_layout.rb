# frozen_string_literal: true

module Gadwall
  module Tests
    # What circuits of one layout can have and be asked, whatever their lengths and values: every fault, every fault at
    # each severity (an atom), every test. Shared by all circuits that are laid out alike. Frozen, but for what is
    # computed on demand.
    class CircuitLayout
      # A fault at one severity. weight: its share of the fault; condition: Circuits::Condition.
      Atom = Struct.new(:fault, :fault_index, :severity, :weight, :condition)

      attr_reader :faults, :atoms

      # What of a vehicle sheet's circuit makes its layout. adaptation: Hash as on the sheet. Returns a Hash key.
      def self.key(template_id, adaptation)
        sections = adaptation["sections"]&.map { |section| section.slice("flexes", "needs") }
        [template_id, adaptation["joints"], sections, adaptation["system_voltage"]]
      end

      # harness: Circuits::Harness; catalogue: for faults and tests.
      def initialize(harness, catalogue)
        @faults = Circuits::FaultList.for(harness, catalogue).freeze
        @harness = harness
        @catalogue = catalogue
        @atoms = faults.each_with_index.flat_map { |fault, index| graded(harness, fault, index) }.freeze
      end

      # {id => Test}. Half of the work of a layout, and no work for who only measures.
      def tests
        @tests ||= Expansion.tests(@harness, @catalogue).to_h { |test| [test.id, test] }.freeze
      end

      # By atom: the index of its fault.
      def fault_of
        @fault_of ||= atoms.map(&:fault_index).freeze
      end

      # The indices of the atoms of each fault.
      def atoms_by_fault
        @atoms_by_fault ||= atoms.each_index.group_by { |i| atoms[i].fault_index }.values.freeze
      end

      # By atom: its Circuits::Condition.
      def conditions
        @conditions ||= atoms.map(&:condition).freeze
      end

      # The place of a condition of these atoms among `conditions`, nil for another one. Told by identity.
      def condition_index(condition)
        @index_of ||= conditions.each_with_index.to_h.compare_by_identity
        @index_of[condition]
      end

      # The atom that a fault's condition belongs to, as an index; nil for the sound circuit and for a condition that is
      # none of them. A fault that changes nothing in the circuit (a module's memory) leaves it as the sound one is.
      def atom_index(condition, fault)
        return condition_index(condition) unless condition.equal?(Circuits::Condition::SOUND)

        (@unchanged ||= unchanged)[fault]
      end

      # Places that faults can be at.
      def places
        @places ||= faults.map(&:place).uniq.freeze
      end

      # By fault: the place that it belongs to, as an index of `places`.
      def place_of
        @place_of ||= faults.map { |fault| places.index(fault.place) }.freeze
      end

      # By atom: the place of its fault, as an index of `places`.
      def place_of_atom
        @place_of_atom ||= fault_of.map { |fault| place_of[fault] }.freeze
      end

      # Indices of the atoms of some faults. faults: Array of fault indices.
      def atoms_of(faults)
        (@atoms_of ||= {})[faults] ||= atoms.each_index.select { |i| faults.include?(atoms[i].fault_index) }.freeze
      end

      # The least that any test takes. The block gives the effort of a test.
      def least_effort(&)
        @least_effort ||= tests.each_value.map(&).min || Float::INFINITY
      end

      private

      # {fault that changes nothing => index of its atom}.
      def unchanged
        same = atoms.each_index.select { |i| atoms[i].condition.equal?(Circuits::Condition::SOUND) }
        same.to_h { |i| [atoms[i].fault, i] }
      end

      def graded(harness, fault, index)
        fault.severities.map do |severity, weight|
          Atom.new(fault, index, severity, weight, Circuits::Effect.condition(harness, fault, severity)).freeze
        end
      end
    end
  end
end
