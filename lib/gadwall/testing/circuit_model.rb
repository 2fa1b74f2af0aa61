# frozen_string_literal: true

module Gadwall
  module Testing
    # A harness with every fault it can have and, on demand, what each would make every test and every monitor show.
    # Pure tables of numbers, kept for as long as the harness is: circuits that are wired alike share one model.
    #
    # An atom is one fault at one severity; arrays named `by atom` run in the order of `atoms`.
    class CircuitModel
      Atom = Struct.new(:fault, :fault_index, :severity, :weight, :condition)

      attr_reader :harness, :faults, :tests, :atoms, :predictor

      def initialize(harness, catalogue)
        @harness = harness
        @catalogue = catalogue
        @faults = Circuits::FaultList.for(harness, catalogue).freeze
        @tests = Expansion.tests(harness, catalogue).to_h { |test| [test.id, test] }.freeze
        @atoms = faults.each_with_index.flat_map { |fault, index| graded(fault, index) }.freeze
        @predictor = Predictor.new(harness, catalogue)
        @tables = {}
      end

      def fault(id)
        faults.find { |fault| fault.id == id }
      end

      # Indices of the atoms of some faults. faults: Array of fault indices.
      def atoms_of(faults)
        (@atoms_of ||= {})[faults] ||= atoms.each_index.select { |i| faults.include?(atoms[i].fault_index) }.freeze
      end

      # What a test shows: TestTable, computed once.
      def table(test)
        @tables[test.id] ||= TestTable.new(
          self,
          test,
          @catalogue.model("window_looks"),
          @catalogue.model("provoked_looks")
        )
      end

      # Chances that each monitor trips, with the harness sound, with its module dead, and by atom.
      def monitors
        @monitors ||= Monitors.new(self)
      end

      # Computes what pages will ask for: monitors, and what each test shows.
      def prepare
        monitors
        tests.each_value { |test| table(test) }
      end

      # What was computed from this harness and a small key, kept with it. The block must be pure.
      def cached(key)
        (@cached ||= {})[key] ||= yield
      end

      def unpowered
        @unpowered ||= Circuits::Effect.unpowered(harness)
      end

      # By atom: how surely this harness's fault leaves the module without power (only a supply harness can).
      def unpowering
        @unpowering ||= (atoms.map { |atom| unpowers?(atom) ? 1.0 : 0.0 } if harness.template["powers"])
      end

      # Short: an error message must not print all its tables.
      def inspect
        "#<#{self.class} #{harness.id}>"
      end

      private

      def graded(fault, index)
        fault.severities.map do |severity, weight|
          Atom.new(fault, index, severity, weight, Circuits::Effect.condition(harness, fault, severity)).freeze
        end
      end

      def unpowers?(atom)
        rule = harness.template["powers"]
        state = Circuits::Harness::State.of(**rule["state"].transform_keys(&:to_sym))
        @power_reader ||= Circuits::Reader.new(harness, state)
        @power_reader.read("volts", rule["probes"], atom.condition) < rule["below"]
      end
    end
  end
end
