# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What is still believed of one circuit, as the choice of the next test needs it.
    #
    # rows: Array of [place, atom index, presence index, probability], weakest first.
    class Beliefs
      STRONG = 0.85 # of each place's probability: enough to tell a telling test from an idle one
      LEAST_PLACE = 0.002

      attr_reader :rows

      # Rows, weakest first, without the weakest that together hold less than `spare`.
      def self.trim(sorted, spare)
        sorted.drop_while { |row| (spare -= row.last).positive? }
      end

      # model: Tests::CircuitModel of the circuit.
      def initialize(rows, posterior, model)
        @rows = rows
        @posterior = posterior
        @model = model
        @columns = {}
        @merged = {}
      end

      # Only the strong ones of each place: Beliefs.
      def strong
        @strong ||= Beliefs.new(by_place.values.flat_map { |rows| strong_of(rows) }, @posterior, @model)
      end

      # Probability that they hold together.
      def total
        @total ||= [rows.sum(&:last), 1.0].min
      end

      # What there is to know: the chance of each place, and of nothing there.
      def shares
        by_place.values.map { |rows| [rows.sum(&:last), 1.0].min } << (1 - total)
      end

      # The same as bare columns, for tests that meet what comes and goes alike.
      # always: chances of the atoms that show as they are: all the time, or less bad ones that are left while what
      # comes and goes is away; met: of those that come and go, times the chance that the test meets them; unmet: the
      # probability of the rest, which looks sound.
      Columns = Struct.new(:always_atoms, :always, :met_atoms, :met, :unmet)

      # {place => Columns}. table: Tests::TestTable of the test; merged: places that are one thing count as one.
      def columns(table, merged: false)
        (merged ? @merged : @columns)[table.meeting] ||= begin
          chances = @posterior.presences.map { |presence| table.meeting_chance(presence) }
          model = @model if table.meeting == Tests::TestTable::MOMENT
          (merged ? by_body : by_place).transform_values { |rows| columns_of(rows, chances, model) }
        end
      end

      private

      def by_place
        @by_place ||= rows.group_by(&:first)
      end

      def by_body
        @by_body ||= rows.group_by { |row| @posterior.bodies.at(row.first) }
      end

      def strong_of(rows)
        total = rows.sum(&:last)
        total < LEAST_PLACE ? [] : Beliefs.trim(rows, total * (1 - STRONG))
      end

      # model: Tests::CircuitModel where what is away may leave something that the test shows, else nil.
      def columns_of(rows, meeting, model)
        shown = Hash.new(0.0)
        met = Hash.new(0.0)
        unmet = 0.0
        rows.each do |_, atom, presence, p|
          next shown[atom] += p if presence.zero?

          met[atom] += p * meeting[presence]
          unmet += leave(shown, atom, p * (1 - meeting[presence]), model)
        end
        Columns.new(shown.keys, shown.values, met.keys, met.values, unmet)
      end

      # Adds what an atom leaves while it is away. Returns the chance that it leaves nothing.
      def leave(shown, atom, chance, model)
        atoms, weights = model&.lesser&.at(atom)
        return chance unless atoms && chance.positive?

        left = chance * model.residue
        atoms.each_with_index { |i, k| shown[i] += left * weights[k] }
        chance - left
      end
    end
  end
end
