# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # The outcome of a test and the place to be mended, together: what is believed of the test's circuit, spread over
    # its outcomes. Suspects outside the circuit all see the same sound line, so they count as one; but for a supply
    # that has failed, which silences its module here.
    class JointTable
      # test: of the circuit; right: names of its places that a change has put right; strong: by the strong beliefs
      # alone.
      def initialize(posterior, circuit, test, right: [], strong: false)
        @posterior = posterior
        @circuit = circuit
        @table = posterior.table(circuit, test)
        @sound = @table.rows[0]
        @right = right.empty? ? right : right.map { |place| "#{circuit.id}/#{place}" }
        @beliefs = posterior.beliefs(circuit, strong: strong)
      end

      # {place => chances by outcome} of what is believed of the circuit.
      def by_place
        @by_place ||= @beliefs.columns(@table).to_h { |place, columns| [place, outcomes(place, by_row(columns))] }
      end

      # Chances by outcome of all else.
      def rest
        @rest ||= @sound.map { |chance| chance * [outside, 0.0].max }
      end

      # The chance of all else: neither in the circuit nor a supply that shows in it.
      def outside
        1 - @beliefs.total - lost
      end

      # {id of a supply circuit => chances by outcome of its having failed}.
      def losses
        @losses ||=
          @posterior
            .losses(@circuit)
            .to_h { |supply, id, p| [supply, @table.silent_row(id).map { |chance| chance * p }] }
      end

      # What the test tells, in bits; one thing that several circuits share is one place, wherever it shows. Places that
      # do not show in the test are one row with all else: rows in proportion tell nothing of each other.
      def bits
        columns = @beliefs.columns(@table, merged: true)
        alike = 1 - @beliefs.total
        rows = {}
        columns.each do |place, each|
          chances = by_row(each)
          shows?(chances) ? rows[place] = outcomes(place, chances) : alike += chances[0]
        end
        return 0.0 if rows.empty? && losses.empty?

        alike -= add_beside(rows, columns) + lost
        Information.mutual([*rows.values, *losses.values, @sound.map { |chance| chance * [alike, 0.0].max }])
      end

      private

      def lost
        losses.values.sum(&:sum)
      end

      # Chances by distinct row of the table. Bare loops, as in Information.
      def by_row(columns)
        sums = Array.new(@table.rows.size, 0.0)
        sums[0] = columns.unmet
        add(sums, @table.row_of, columns.always_atoms, columns.always)
        add(sums, @table.caught_row_of, columns.met_atoms, columns.met)
        sums
      end

      def add(sums, row_of, atoms, chances)
        n = atoms.size
        sums[row_of.getbyte(atoms[n])] += chances[n] while (n -= 1) >= 0
      end

      # Is anything but the sound row among them?
      def shows?(by_row)
        k = by_row.size
        k -= 1 while k > 1 && by_row[k - 1] <= 0.0
        k > 1
      end

      # Chances by outcome. What a change has put right shows what is sound, mostly.
      def outcomes(place, by_row)
        shown = Information.mixed(@table.rows, by_row)
        return shown unless @right.include?(place)

        all = shown.sum
        shown.each_with_index.map { |chance, bin| RowWeights.put_right(chance, all * @sound[bin]) }
      end

      # Adds what is wrong with the circuit's bodies and does not show in it. Returns how much that is.
      def add_beside(rows, columns)
        beside = @posterior.bodies.beside(@circuit).select { |body, _| columns.key?(body) }
        return 0.0 if beside.empty?

        scale = [(1 - @beliefs.total) / beside.values.sum, 1.0].min
        beside
          .slice(*rows.keys)
          .sum do |body, chance|
            rows[body] = rows[body].each_with_index.map { |p, bin| p + (@sound[bin] * chance * scale) }
            chance * scale
          end
      end
    end
  end
end
