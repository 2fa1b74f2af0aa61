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
        end
      # Bits from which a weight is called so; from memory.
      STRENGTHS = { 3.0 => "strong", 1.0 => "moderate", 0.3 => "weak" }.freeze

      OUTLIER_FROM = 0.5

      # investigations: each reading speaks for the leader of its own line of investigation against that line's next.
      def initialize(posterior, body, investigations)
        @investigations = investigations
        @posterior = posterior
        @share = posterior.system.catalogue.model("gross_error")
        @body = body
      end

      # One Row for each observation, in log order.
      def rows
        @body.observations.map { |observation| row(observation, *rivals(observation.circuit.id)) }
      end

      private

      def rivals(circuit_id)
        investigation = @investigations.find { |each| each.circuits.include?(circuit_id) } || @investigations.first
        lead, rival = investigation.places.keys.first(2)
        [lead, rival || Posterior::NONE_PLACE]
      end

      # One pass over what is still believed: the mean density of the result at the leader and at the rival (anywhere
      # else, as a sound line gives it), and the share that the 'anything' part of the mixture has in explaining it.
      def row(observation, lead, rival)
        slack = @share * GrossError.density(observation)
        densities =
          observation
            .circuit
            .model
            .table(observation.test)
            .densities(observation.result, @posterior.presences, provoked: observation.provoked?)
        sound = ((1 - @share) * densities.sound) + slack
        sums = { lead => [0.0, 0.0], rival => [0.0, 0.0] }
        outlier_chance = 0.0
        believed = 0.0
        @posterior
          .beliefs(observation.circuit)
          .each do |place, i, d, probability|
            density = ((1 - @share) * densities.by_presence[d][i]) + slack
            outlier_chance += probability * slack / density
            believed += probability
            next unless (sum = sums[place])

            sum[0] += probability * density
            sum[1] += probability
          end
        bits = Math.log2(mean(sums[lead], sound) / mean(sums[rival], sound))
        outlier_chance /= believed if believed > 1
        Row.new(
          observation: observation,
          bits: bits,
          outlier_chance: outlier_chance + ([1 - believed, 0.0].max * slack / sound)
        ).freeze
      end

      def mean(sum, otherwise)
        sum[1].positive? ? sum[0] / sum[1] : otherwise
      end
    end
  end
end
