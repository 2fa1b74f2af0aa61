# frozen_string_literal: true

require "forwardable"
require "monitor"

module Gadwall
  module Tests
    # A harness with every fault it can have and, on demand, what each would make every test and every monitor show.
    # Pure tables of numbers, kept for as long as the harness is: circuits that are wired alike share one model.
    #
    # Arrays named `by atom` run in the order of `atoms` (CircuitLayout).
    class CircuitModel
      extend Forwardable

      KEPT = 256 # so many things of each kind that were computed lately: for twenty jobs wired alike

      attr_reader :harness, :layout, :predictor, :atoms

      def_delegators :layout, :faults, :tests, :fault_of, :places, :place_of, :place_of_atom, :atoms_of
      def_delegators :layout, :least_effort, :atoms_by_fault

      # harness: Circuits::Harness; layout: CircuitLayout of it; shelf: Shelf for what was computed of it, or nil.
      def initialize(harness, catalogue, layout = CircuitLayout.new(harness, catalogue), shelf: nil)
        @shelf = shelf
        @harness = harness
        @catalogue = catalogue
        @layout = layout
        @atoms = layout.atoms
        @predictor = Predictor.new(harness, catalogue, layout)
        @predictor.monitors = -> { monitors }
        @predictor.unpowering = -> { unpowering }
        @tables = {}
        @variants = {}
        @recent = {}
        @computing = ::Monitor.new # of several threads that ask, one computes
      end

      # A Circuits::Fault, or nil. id: within the circuit, or one that it had in earlier versions.
      def fault(id)
        faults.find { |fault| fault.id == id } || faults.find { |fault| fault.id == renamed(id) }
      end

      # A Test, or nil. id: as of `fault`.
      def test(id)
        tests[id] || tests[renamed(id)]
      end

      # Tests that may be offered to a hand: no part on trial whose fitting opens what holds fluid, air or pressure. The
      # others count when they were done.
      def offered_tests
        @offered_tests ||= tests.values.select { |test| test.offered?(harness.template) }.freeze
      end

      # What a test shows: TestTable, computed once. point: {id of an Unknown => number of its value}, for a harness in
      # which they are so; what it does not name is as the template says. warned: as Tests::Test#warned.
      def table(test, point = nil, warned: 0.0)
        seen = point && (unknowns_of(test) + felt_in(test)).to_h { |unknown| [unknown.id, point[unknown.id]] }.compact
        return variant(seen).table(test, warned: warned) if seen&.any?

        asked = test.when_warned(warned)
        key = asked.warned.zero? ? asked.id : [asked.id, asked.warned]
        @tables[key] || @computing.synchronize { @tables[key] ||= new_table(asked) }
      end

      # Values that neither sheet nor trade states of this harness: Array of Unknown.
      def unknowns
        @unknowns ||= Unknown.all(harness, @catalogue)
      end

      # Those of them that a test can show.
      def unknowns_of(test)
        @unknowns_of ||= tests.transform_values { |each| unknowns.select { |unknown| unknown.shown_by?(each) }.freeze }
        @unknowns_of.fetch(test.id, [])
      end

      # Chances that each monitor trips, with the harness sound, with its module dead, and by atom; computed once.
      def monitors
        @monitors || @computing.synchronize { @monitors ||= Monitors.new(self, @shelf && @shelf[:monitors]) }
      end

      # Those that it depends on without showing them.
      def felt_in(test)
        @felt_in ||= tests.transform_values { |each| unknowns.select { |unknown| unknown.felt_by?(each) }.freeze }
        @felt_in.fetch(test.id, [])
      end

      # Computes all that can be asked.
      def prepare
        monitors
        tests.each_value { |test| table(test) }
        rest
      end

      # Lets go of what was only needed for computing: solved networks. They are made again when something new is asked.
      def rest
        predictor.rest
        @variants.each_value(&:rest)
      end

      # Puts away what was computed since it was last put away, where there is a shelf.
      def put_away
        return unless @shelf

        @computing.synchronize { @variants.values }.each(&:put_away)
        tables = @computing.synchronize { @tables.dup }
        return if @put_away == tables.size

        @put_away = tables.size
        computed = tables.transform_values(&:kept)
        computed[:monitors] = @monitors.kept if @monitors
        @shelf.put(computed)
      end

      # How much is kept, as a number of tables: what a cache goes by. What was computed of readings (`cached`) counts
      # by the rows that it holds, of one number for each atom.
      def weight
        cached = @computing.synchronize { @recent.values }.sum(&:size)
        @tables.size + 2 + @variants.values.sum(&:weight) + (cached * atoms.size / ATOMS_OF_A_TABLE)
      end

      ATOMS_OF_A_TABLE = 400 # a thing computed of so many atoms takes as much as a table; measured

      # What was computed from this harness and a small key, kept with it while it is lately used. key: Array whose
      # first names the kind; of each kind so many are kept. The block must be pure.
      def cached(key, &)
        recent(key.first).fetch(key, &)
      end

      # The Circuits::Condition of this harness with its module dead.
      def unpowered
        @unpowered ||= Circuits::Effect.unpowered(harness)
      end

      # Volts at its own connector below which the module that this harness feeds gives up, twice as many on a 24 V
      # vehicle; nil where it feeds none.
      def least_power_volt
        harness.template["powers"] && (harness.template["powers"]["below"] * harness.limit_factor)
      end

      # Atoms in series at one place in the same wires, of any severity, with their shares: [[indices, shares], ...].
      # What wanders from one to another within a place is one rotten contact.
      def rotten
        @rotten ||=
          atoms
            .each_index
            .select { |i| atoms[i].fault.effect == "series" }
            .group_by { |i| [atoms[i].fault.place, atoms[i].fault.target] }
            .values
            .reject { |same| same.size < 2 }
            .map { |same| [same, shares_of(same)] }
      end

      # By atom: what of the same spot is less bad, which a fault that comes and goes may leave of itself while it is
      # away: [indices, shares] of atoms in series in the same wires, or of the same leak; nil where there is none.
      def lesser
        @lesser ||= Residue.by_atom(atoms) { |indices| shares_of(indices) }
      end

      # How often what comes and goes leaves something to measure while it is away.
      def residue
        @residue ||= @catalogue.model("residue")
      end

      # By atom, while it is away: as the sound circuit, or now and then as the less bad of the same spot. there: by
      # atom, while it is there; sound: the same with the circuit sound. Bare loop: it runs for every reading.
      def while_away(there, sound)
        share = residue
        found = Array.new(there.size, sound)
        lesser.each_with_index do |(atoms, weights), i|
          next unless atoms

          left = 0.0
          k = atoms.size
          left += weights[k] * there[atoms[k]] while (k -= 1) >= 0
          found[i] = ((1 - share) * sound) + (share * left)
        end
        found.freeze
      end

      # How often a rotten contact is another one at the next reading.
      def wander
        @wander ||= @catalogue.model("rotten_contact")
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

      # What an id of an earlier version is called now, or nil.
      def renamed(id)
        (harness.template["renamed"] || []).find { |row| File.fnmatch(row["was"], id) }&.fetch("now")
      end

      # This model with some unknowns at one of their values. point: {id => number}.
      def variant(point)
        @variants[point] || @computing.synchronize { @variants[point] ||= new_variant(point) }
      end

      def new_variant(point)
        changed =
          unknowns
            .select { |unknown| point.key?(unknown.id) }
            .reduce(harness) { |sum, unknown| unknown.put_into(sum, point.fetch(unknown.id)) }
        CircuitModel.new(changed, @catalogue, layout, shelf: @shelf&.beside(point))
      end

      def recent(kind)
        @recent[kind] || @computing.synchronize { @recent[kind] ||= Recent.new(KEPT) }
      end

      def new_table(test)
        Thread.pass # others may go on: there are many tables
        kept = @shelf && @shelf[test.warned.zero? ? test.id : [test.id, test.warned]]
        TestTable.new(self, test, @catalogue.model("window_looks"), @catalogue.model("provoked_looks"), kept)
      end

      # How often each of some atoms is the one: by their rates, alike where the data gives none of them any.
      def shares_of(indices)
        weights = indices.map { |i| atoms[i].weight * atoms[i].fault.rate }
        sum = weights.sum
        weights.map { |weight| sum.positive? ? weight / sum : 1.0 / weights.size }
      end

      def unpowers?(atom)
        return true if atom.condition.observables.include?("module_dead")

        rule = harness.template["powers"]
        state = Circuits::Harness::State.of(**rule["state"].transform_keys(&:to_sym))
        @power_reader ||= Circuits::Reader.new(harness, state)
        @power_reader.read("volts", rule["probes"], atom.condition) < least_power_volt
      end
    end
  end
end
