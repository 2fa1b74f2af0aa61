# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # The readings of one circuit as they are weighed: in episodes, and with what a repeat says of the first.
    #
    # An episode lasts while nothing of the circuit is moved. A fault that comes and goes is there in the whole of it or
    # not at all. The same test with the same result is one reading, surer than before (a wrong probe seldom lands on
    # the same figure twice); with another result the last one counts and the first is mostly put down to the hand.
    class Readings
      # Readings of one episode. rows: Array of Row; presence: "present", "absent" or nil, what the technician says of
      # the fault meanwhile; alone: a test that meets what comes and goes in its own way (a look, a minute of watching).
      Episode = Struct.new(:rows, :presence, :alone)
      # One result. error: share of such measurements that go wrong; warned: as Observations::Body#warned.
      Row =
        Struct.new(:observation, :error, :warned) do
          # What its test shows: Tests::TestTable. point: of the unknowns.
          def table(model, point = nil)
            model.table(observation.test, point, warned: warned)
          end

          # The density that anything at all would have: of a measurement gone wrong, as often as those are.
          def slack
            error * GrossError.density(observation)
          end

          # How much likelier its result is with this density than with the other one: natural logarithm.
          def log_ratio(density, other)
            likely, less = [density, other].map { |each| [((1 - error) * each) + slack, 1e-300].max }
            Math.log(likely / less)
          end
        end

      OHMS_ALIKE = 0.15 # common practice: a repeat by the same meter agrees within some 15 percent
      VOLTS_ALIKE = 0.05 # common practice: and within a twentieth in volts
      FIRST_IN_DOUBT = 0.3 # from memory: of two that differ, the first was wrong in one case of three
      WITH_CARE = 0.25 # from memory: a repeat is done with care and goes wrong so much less often

      # observations: of one circuit, in the order of the log; warned: as Observations::Body#warned. Returns Array of
      # Episode.
      def self.episodes(observations, catalogue, warned = 0.0)
        new(observations, catalogue, warned).episodes
      end

      def initialize(observations, catalogue, warned)
        @observations = observations.sort_by(&:seq)
        @catalogue = catalogue
        @warned = warned
      end

      # As Readings.episodes. A look between two readings does not end their episode.
      def episodes
        alone, together = rows.partition { |row| alone?(row.observation) }
        parts = together.chunk_while { |before, after| key(before.observation) == key(after.observation) }.to_a
        (parts + alone.map { |row| [row] })
          .map { |part| episode(part) }
          .sort_by { |each| each.rows.first.observation.seq }
      end

      private

      def episode(part)
        first = part.first.observation
        Episode.new(part.freeze, first.presence, alone?(first)).freeze
      end

      # One Row for each reading that counts, repeats taken together; after a change the vehicle is another.
      def rows
        @observations
          .group_by { |each| [each.test.id, each.condition, each.changed_before] }
          .values
          .flat_map { |same| together(same) }
          .sort_by { |row| row.observation.seq }
      end

      def together(same)
        share = GrossError.share(same.first.test, @catalogue)
        runs = same.chunk_while { |before, after| alike?(before, after) }.to_a
        runs.each_with_index.map do |run, k|
          error = share**run.size
          error = [error, share * WITH_CARE].min if k.positive?
          error = FIRST_IN_DOUBT if k < runs.size - 1 && run.size == 1 && share.positive?
          Row.new(run.first, error, @warned).freeze
        end
      end

      def alike?(before, after)
        return before.result == after.result && before.caught == after.caught unless before.test.numeric?

        first = before.result
        second = after.result
        return first.over_limit? == second.over_limit? if first.over_limit? || second.over_limit?

        scale = before.circuit.model.predictor.scale(before.test)
        share = before.test.unit == "ohm" ? OHMS_ALIKE : [VOLTS_ALIKE * second.value.abs, 0.02].max
        (scale.of(first.value) - scale.of(second.value)).abs <= share
      end

      # What stays alike while an episode lasts: what is disconnected, the key, what the technician said.
      def key(observation)
        state = observation.test.state
        [state.disconnected, state.key, observation.presence, observation.condition]
      end

      def alone?(observation)
        test = observation.test
        test.window? || test.behaviour.at_the_place? || observation.provoked? || !observation.caught.nil?
      end
    end
  end
end
