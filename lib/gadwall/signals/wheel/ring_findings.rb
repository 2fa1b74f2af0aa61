# frozen_string_literal: true

module Gadwall
  module Signals
    # What comes back at the same tooth turn after turn: the ring's own faults. Part of WheelSpeed.
    module RingFindings
      private

      def certainty(visits, share)
        share * (1 - (0.4**visits))
      end

      # Returns the places of the ring's gaps.
      def gaps
        found = map.gaps(limit("wide_gap_from"), limit("repeats_share"))
        missing, wide =
          found.partition do |_, ratio, _|
            ratio >= TrainOfTeeth::MISSING_FROM && (ratio - ratio.round).abs <= TrainOfTeeth::WHOLE_WITHIN * (ratio / 2)
          end
        missing_teeth(missing) if missing.any?
        wide.each { |place, ratio, share| wide_gap(place, ratio, share) }
        found.map { |place, _, _| place.index }
      end

      def missing_teeth(rows)
        teeth =
          rows.flat_map { |place, ratio, _| (1..(ratio.round - 1)).map { |k| ((place.index + k) % @count) + 1 } }.sort
        confidence = rows.map { |place, _, share| certainty(place.visits, share) }.min
        fields, words = slip(rows.map { |_, ratio, _| ratio }.max)
        add(
          "missing_teeth",
          confidence,
          "#{teeth.size == 1 ? "Tooth" : "Teeth"} #{teeth.join(", ")} missing on the ring, the same place each " \
            "revolution: the ring, not the wiring.#{words}",
          at_s: within_gaps(rows),
          count: teeth.size,
          teeth: teeth,
          **fields
        )
      end

      def wide_gap(place, ratio, share)
        pair = [place.index + 1, ((place.index + 1) % @count) + 1]
        fields, words = slip(ratio)
        add(
          "wide_gap",
          certainty(place.visits, share),
          "The gap between teeth #{pair.join(" and ")} is #{ratio.round(2)} of a normal one, each revolution: " \
            "tone ring cracked, gap widened.#{words}",
          at_s: within_gaps([[place, ratio, share]]),
          gap_ratio: ratio.round(3),
          teeth: pair,
          **fields
        )
      end

      # The middles of the long periods behind these places, in seconds.
      def within_gaps(rows)
        places = rows.map { |place, _, _| place.index }
        train
          .teeth
          .each_cons(2)
          .filter_map do |a, b|
            if a.ratio && a.spread >= limit("wide_gap_from") && places.include?(a.position % @count)
              (a.time_s + b.time_s) / 2
            end
          end
      end

      # From where to where a controller would take a gap for slip: fields, and words; neither where the tyre is not
      # known.
      def slip(gap)
        return {}, "" unless @circumference_m

        from, upto = LowSpeedDip.new(gap: gap, teeth: @count, circumference_m: @circumference_m).slip_range
        [
          { slip_from_km_h: from, slip_to_km_h: upto },
          from ? " Read as wheel slip from #{from} to #{upto} km/h." : " Too small to be read as wheel slip."
        ]
      end

      # gapped: places at which the ring has a gap. Returns the numbers of the damaged teeth.
      def amplitudes(gapped)
        return [] unless follows_speed?

        runout(map.once_a_turn)
        damaged(gapped)
      end

      def runout(depth)
        return if depth < limit("runout_from")

        add(
          "runout",
          0.95,
          "The amplitude varies once per revolution by #{depth.round(2)} of its mean: ring out of true, bearing play " \
            "or a bent shaft.",
          depth: depth.round(3)
        )
      end

      # A tooth beside a gap reads low for the gap's sake.
      def damaged(gapped)
        low =
          map.places.select do |place|
            place.swing && place.visits >= 2 && gapped.none? { |gap| beside_gap?(place.index, gap) } &&
              place.swing < limit("damaged_below") * map.around(place) && steadily_low?(place)
          end
        return [] if low.empty?

        teeth = low.map { |place| place.index + 1 }
        add(
          "damaged_tooth",
          certainty(low.map(&:visits).min, 1.0),
          "#{teeth.size == 1 ? "Tooth" : "Teeth"} #{teeth.join(", ")} read low each revolution: worn, chipped or " \
            "covered.",
          at_s: train.teeth.select { |tooth| teeth.include?((tooth.position % @count) + 1) }.map(&:time_s),
          teeth: teeth
        )
        teeth
      end

      # On either side of a gap behind place `gap`; between them nothing was seen.
      def beside_gap?(index, gap)
        after = (1..@count).find { |step| map.places[(gap + step) % @count].visits.positive? }
        [gap, (gap + after) % @count].include?(index)
      end

      def steadily_low?(place)
        around = map.around(place)
        place.swings.count { |swing| swing < limit("damaged_below") * around } >=
          limit("repeats_share") * place.swings.size
      end
    end
  end
end
