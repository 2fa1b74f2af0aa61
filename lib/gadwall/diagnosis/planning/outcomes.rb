# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What each result of a test would make of the suspected places, for showing beside the test.
    class Outcomes
      # chance: of this outcome; places: {place => probability} after it.
      Outcome = Struct.new(:index, :label, :good, :chance, :places, keyword_init: true)

      SHOWN_PLACES = 4
      LEAST_CHANCE = 0.005 # a rarer outcome is not shown

      # test: of the circuit; right: names of places that a change has put right. Returns Array of Outcome, the
      # likeliest first.
      def self.of(posterior, circuit, test, right: [])
        new(posterior, circuit, test, right).to_a
      end

      def initialize(posterior, circuit, test, right)
        @posterior = posterior
        @circuit = circuit
        @table = posterior.table(circuit, test)
        @joint = JointTable.new(posterior, circuit, test, right: right)
      end

      # Array of Outcome.
      def to_a
        found =
          (0...@table.outcome_count).filter_map do |bin|
            known = @joint.by_place.values + @joint.losses.values
            chance = known.sum { |row| row[bin] } + @joint.rest[bin]
            outcome(bin, chance) if chance > LEAST_CHANCE
          end
        found.sort_by { |each| -each.chance }
      end

      private

      def outcome(bin, chance)
        inside = @joint.by_place.map { |place, row| [place, row[bin] / chance] }
        Outcome.new(
          index: bin,
          label: @table.outcome_label(bin),
          good: @table.good?(bin),
          chance: chance,
          places: (inside + elsewhere(bin, chance)).sort_by { |_, p| -p }.first(SHOWN_PLACES).to_h
        )
      end

      # The strongest places outside the circuit after an outcome of this chance. No test of the circuit changes another
      # one, but for the faults that would make it unnecessary, and for a supply whose loss it shows.
      def elsewhere(bin, chance)
        outside = @joint.outside
        both = @posterior.fault_beside(@circuit)
        clean = outside.positive? ? @joint.rest[bin] / outside : 0.0
        faulty = outside < 1 ? (chance - @joint.rest[bin]) / (1 - outside) : 0.0
        others.map do |place, p|
          row = @joint.losses[place[%r{\A[^/]+}]]
          factor = row ? row[bin] / row.sum : ((1 - both) * clean) + (both * faulty)
          [place, p * factor / chance]
        end
      end

      def others
        @others ||=
          begin
            prefix = "#{@circuit.id}/"
            inside = @posterior.places_of(@circuit.id)
            @posterior
              .places
              .lazy
              .reject { |place, _| place.start_with?(prefix) || inside.key?(place) }
              .first(SHOWN_PLACES)
          end
      end
    end
  end
end
