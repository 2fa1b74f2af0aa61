# frozen_string_literal: true

module Gadwall
  module Signals
    # A train of teeth laid round the ring: for each place, what came after it and how strong it was, turn after turn.
    class RingMap
      # index: from 0; ratios, spreads, swings: one a visit; a swing is per turn a second for a sensor whose amplitude
      # follows speed.
      Place =
        Struct.new(:index, :ratios, :spreads, :swings, keyword_init: true) do
          # How often the place came past.
          def visits
            ratios.size
          end

          # Its median amplitude.
          def swing
            Quantity::Statistics.median(swings)
          end
        end

      attr_reader :count, :places

      # teeth: of a TrainOfTeeth; count: in a turn; follows_speed: does the amplitude?
      def initialize(teeth, count, follows_speed:)
        @count = count
        @turns = teeth.empty? ? 0 : teeth.last.position / count
        @places = Array.new(count) { |index| Place.new(index: index, ratios: [], spreads: [], swings: []) }
        teeth.each do |tooth|
          place = @places[tooth.position % count]
          place.ratios << tooth.ratio if tooth.ratio
          place.spreads << tooth.spread if tooth.ratio
          place.swings << (follows_speed ? tooth.swing / tooth.turns : tooth.swing)
        end
      end

      # By place, for a drawing or a table: number, period after it and amplitude, both against the usual; nil where no
      # tooth is.
      def teeth
        places.map do |place|
          {
            tooth: place.index + 1,
            period: Quantity::Statistics.median(place.ratios)&.round(3),
            amplitude: place.swing && swing.positive? ? (place.swing / swing).round(3) : nil
          }
        end
      end

      # Median amplitude of the whole ring.
      def swing
        @swing ||= Quantity::Statistics.median(places.filter_map(&:swing)) || 0.0
      end

      # Places where a gap is in at least this share of their visits, each the widest of its neighbours: [[Place, ratio,
      # share], ...].
      def gaps(from, share)
        found =
          places.filter_map do |place|
            long = place.spreads.select { |spread| spread >= from }
            visits = [place.visits, @turns].max
            if place.visits < 2 || long.size < share * visits || !alike?(long) || (long.size < 3 && long.max > LONG)
              next
            end

            [place, Quantity::Statistics.median(long), long.size / visits.to_f]
          end
        found.reject { |place, _, _| found.any? { |other, _, _| beside?(place, other) && wider?(other, place) } }
      end

      # A gap of the ring is as wide each turn; where a signal breaks off is not.
      def alike?(long)
        middle = Quantity::Statistics.median(long)
        long.count { |spread| (spread - middle).abs <= ALIKE_WITHIN * middle } > 0.7 * long.size
      end

      ALIKE_WITHIN = 0.2
      LONG = 5.0 # periods: so much missing is believed from three turns on

      # Within reach of one another: the gap itself lies between a place and the next that was seen.
      def beside?(place, other)
        reach = 1 + [place, other].map { |each| Quantity::Statistics.median(each.spreads) }.max.round
        apart = (place.index - other.index) % count
        apart.positive? && [apart, count - apart].min <= reach
      end

      # By its own period; of two that share a gap evenly, the first.
      def wider?(other, place)
        a, b = [other, place].map { |each| Quantity::Statistics.median(each.ratios) }
        (a - b).abs < 1e-3 ? other.index < place.index : a > b
      end

      # Median amplitude of the three places on either side that were seen.
      def around(place)
        offsets = [-3, -2, -1, 1, 2, 3]
        Quantity::Statistics.median(offsets.filter_map { |offset| places[(place.index + offset) % count].swing }) ||
          swing
      end

      # Peak-to-peak swing of the amplitude once a turn over its mean: least squares of mean, cosine and sine.
      def once_a_turn
        seen = places.select(&:swing)
        return 0.0 if seen.size < 6

        mean, cosine, sine = fit(seen)
        mean.abs < 1e-12 ? 0.0 : [2 * Math.hypot(cosine, sine) / mean.abs, 2.0].min
      end

      private

      def fit(seen)
        rows = seen.map { |place| [1.0, Math.cos(angle(place)), Math.sin(angle(place))] }
        normal = (0..2).map { |i| (0..2).map { |j| rows.sum { |row| row[i] * row[j] } } }
        right = (0..2).map { |i| rows.each_with_index.sum { |row, k| row[i] * seen[k].swing } }
        Circuits::LU.new(normal).solve(right)
      end

      def angle(place)
        2 * Math::PI * place.index / count
      end
    end
  end
end
