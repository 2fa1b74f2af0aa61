# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What each single reading said: bits for the leading place against its strongest rival (weight of evidence, Good
    # 1950; from memory), and whether the reading fits nothing that still stands.
    class Weight
      # bits: above 0 speaks for the leader; outlier_chance: chance that the measurement itself went wrong, given all
      # else.
      Row =
        Struct.new(:observation, :bits, :outlier_chance, keyword_init: true) do
          # "strong support for", or "against"; nil where it says next to nothing.
          def support
            strength = STRENGTHS.find { |from, _| bits.abs >= from }&.last
            strength && "#{strength} support #{bits.positive? ? "for" : "against"}"
          end

          # Does it speak against the leader, more than weakly?
          def against?
            bits <= -1.0
          end
        end
      # Bits from which a weight is called so; from memory.
      STRENGTHS = { 3.0 => "strong", 1.0 => "moderate", 0.3 => "weak" }.freeze

      OUTLIER_FROM = 0.5

      # investigations: each reading speaks for the leader of its own line of investigation against that line's next.
      def initialize(posterior, body, investigations)
        @investigations = investigations
        @posterior = posterior
        @body = body
      end

      # One Row for each observation, in log order.
      def rows
        errors = errors_by_reading
        @body.observations.map do |observation|
          row(observation, errors.fetch(observation), *rivals(observation.circuit.id))
        end
      end

      private

      # {observation itself => share of error that it is weighed with}; a repeat shares that of the reading it repeats.
      def errors_by_reading
        rows = @posterior.circuits.values.flat_map { |weights| weights.evidence.episodes.flat_map(&:rows) }
        of_test = rows.group_by { |row| test_of(row.observation) }.transform_values { |same| same.map(&:error).min }
        known = {}.compare_by_identity
        @body.observations.each { |each| known[each] = of_test.fetch(test_of(each)) }
        rows.each { |row| known[row.observation] = row.error }
        known
      end

      def test_of(observation)
        [observation.circuit.id, observation.test.id]
      end

      def rivals(circuit_id)
        investigation = @investigations.find { |each| each.circuits.include?(circuit_id) } || @investigations.first
        lead, rival = investigation.places.keys.first(2)
        [lead, rival || Posterior::NONE_PLACE]
      end

      # One pass over what is still believed: the mean density of the result at the leader and at the rival (anywhere
      # else, as a sound line gives it), and the share that the 'anything' part of the mixture has in explaining it.
      def row(observation, error, lead, rival)
        slack = error * GrossError.density(observation)
        table = @posterior.table(observation.circuit, observation.test)
        densities = table.densities(observation.result)
        sound = [((1 - error) * densities.sound) + slack, 1e-300].max
        sums = { lead => [0.0, 0.0], rival => [0.0, 0.0] }
        outlier_chance = 0.0
        believed = 0.0
        @posterior
          .beliefs(observation.circuit)
          .rows
          .each do |place, i, d, probability|
            density = ((1 - error) * shown(table, densities, i, d, observation)) + slack
            outlier_chance += probability * slack / [density, 1e-300].max
            believed += probability
            next unless (sum = sums[place])

            sum[0] += probability * density
            sum[1] += probability
          end
        bits = Math.log2([mean(sums[lead], sound), 1e-300].max / [mean(sums[rival], sound), 1e-300].max)
        outlier_chance /= believed if believed > 1
        Row.new(
          observation: observation,
          bits: bits,
          outlier_chance: outlier_chance + ([1 - believed, 0.0].max * slack / sound)
        ).freeze
      end

      # How likely the result is with an atom there as often as it is; where a change had put it right before, as
      # RowWeights has it.
      def shown(table, densities, atom, presence, observation)
        by_atom = presence.zero? ? densities.present : densities.caught
        there = RowWeights.after(observation, observation.circuit.model.atoms[atom], by_atom[atom], densities.sound)
        return there if presence.zero?

        met = table.meeting_chance(@posterior.presences[presence], provoked: observation.provoked?)
        (met * there) + ((1 - met) * densities.away[atom])
      end

      def mean(sum, otherwise)
        sum[1].positive? ? sum[0] / sum[1] : otherwise
      end
    end
  end
end
