# frozen_string_literal: true

module Gadwall
  module Signals
    # What a wheel-speed signal tells of ring, sensor and wiring. Works in the order of the ring: what comes back at the same
    # tooth turn after turn belongs to the ring; what does not, to wiring, gap or interference.
    class WheelSpeed
      include Findings

      # kind and fields as in docs formats section 3; confidence 0..1; text for the technician.
      Finding = Struct.new(:kind, :confidence, :text, :details, keyword_init: true) do
        def to_h
          { kind: kind, **details, confidence: confidence.round(2), text: text }
        end
      end
      LEAST_POINTS = 4.0 # samples a tooth, below which nothing can be said
      USUAL_COUNT = 48   # common practice: where nobody says how many teeth
      CONFIDENT = 0.99

      attr_reader :map, :train, :revolutions

      # capture: Capture (of one variable where edges only); teeth: in a turn; sensor: "passive", "active" or nil to find out;
      # circumference_m: for km/h, or nil. Raises InputError, UnknownNameError.
      def initialize(capture, channel: nil, teeth: nil, sensor: nil, circumference_m: nil, catalogue: Knowledge.catalogue)
        @capture = capture
        @channel = capture.channel(channel)
        @limits = catalogue.signal
        @circumference_m = circumference_m
        @teeth = teeth
        @finder = ToothFinder.new(capture, @channel, count: teeth || USUAL_COUNT, sensor: sensor)
        @findings = []
        analyse
      end

      # "passive" or "active", as given or found out.
      def sensor
        @finder.sensor
      end

      def verdict
        return "unreadable" if @unreadable

        findings.empty? ? "clean" : "faulty"
      end

      def to_h
        { signal: "wheel_speed", channel: @channel.name, samples: @capture.samples, duration_s: @capture.duration_s.round(6), revolutions: revolutions&.round(2), teeth: @count,
          sensor: sensor, verdict: verdict, findings: findings.map(&:to_h), note: @unreadable }.compact
      end

      # Tooth by tooth, and the mean number of teeth a second, missing ones counted.
      def drawn
        return {} unless map

        { ring: map.teeth, tooth_hz: (train.teeth.last.position / (train.teeth.last.time_s - train.teeth.first.time_s)).round(3) }
      end

      # The signal, and the speed of the wheel beneath it.
      def trace
        Trace.of(@capture, first: @channel, more: train ? [speed] : [])
      end

      private

      # In km/h where the tyre is known. A tooth's own speed is that of the period behind it.
      def speed
        per_turn = @circumference_m ? @circumference_m * 3.6 : 1.0
        teeth = train.teeth.select(&:ratio)
        Trace::Panel.new(title: "Speed of the wheel", unit: @circumference_m ? "km/h" : "turns/s", time_s: teeth.map(&:time_s),
                         series: { "each tooth" => teeth.map { |tooth| tooth.turns * per_turn / tooth.ratio }, "smoothed" => teeth.map { |tooth| tooth.turns * per_turn } })
      end

      def follows_speed?
        sensor == "passive"
      end

      def analyse
        passages = @finder.passages
        return silent if passages.empty?
        return unreadable("Fewer than #{LEAST_POINTS.to_i} samples a tooth: take #{WheelGeometry.sample_rate(1 / usual_period(passages)).round(-2)} a second or more.") if coarse?(passages)

        @count = @teeth || USUAL_COUNT
        @train = train_of(@count)
        recount
        @revolutions = train.revolutions
        @map = RingMap.new(train.teeth, @count, follows_speed: follows_speed?)
        weak
        return unreadable("#{revolutions.round(1)} turns: from two on, ring and wiring can be told apart. Turn it longer.") if revolutions < limit("least_turns")

        amplitudes(gaps)
        passing
      end

      def train_of(count)
        TrainOfTeeth.new(@finder.passages, count, floor: @finder.floor)
      end

      def coarse?(passages)
        points(passages) < LEAST_POINTS
      end

      # Samples a tooth; of logic the moments themselves are known.
      def points(passages)
        @capture.edges_only ? Float::INFINITY : usual_period(passages) * (@capture.samples - 1) / @capture.duration_s
      end

      def usual_period(passages)
        RingMap.median(passages.each_cons(2).map { |a, b| b.time_s - a.time_s })
      end

      def silent
        @revolutions = 0.0
        add("no_signal", 0.97, "No teeth in this signal. Wheel turning? Then ring missing, gap too wide, sensor dead or its lead open.")
      end

      def unreadable(why)
        @unreadable = why if findings.empty?
      end

      def add(kind, confidence, text, at_s: [], **details)
        mark(kind, at_s)
        findings << Finding.new(kind: kind, confidence: [confidence, CONFIDENT].min, text: text, details: details).freeze
      end

      def certainty(visits, share)
        share * (1 - (0.4**visits))
      end

      # Returns the places of the ring's gaps.
      def gaps
        found = map.gaps(limit("wide_gap_from"), limit("repeats_share"))
        missing, wide = found.partition { |_, ratio, _| ratio >= TrainOfTeeth::MISSING_FROM && (ratio - ratio.round).abs <= TrainOfTeeth::WHOLE_WITHIN * (ratio / 2) }
        missing_teeth(missing) if missing.any?
        wide.each { |place, ratio, share| wide_gap(place, ratio, share) }
        found.map { |place, _, _| place.index }.tap { |places| dropouts(places) }
      end

      def missing_teeth(rows)
        teeth = rows.flat_map { |place, ratio, _| (1..(ratio.round - 1)).map { |k| ((place.index + k) % @count) + 1 } }.sort
        confidence = rows.map { |place, _, share| certainty(place.visits, share) }.min
        fields, words = slip(rows.map { |_, ratio, _| ratio }.max)
        add("missing_teeth", confidence, "#{teeth.size == 1 ? 'Tooth' : 'Teeth'} #{teeth.join(', ')} missing on the ring, the same place each turn: the ring, not the wiring.#{words}", at_s: within_gaps(rows), count: teeth.size, teeth: teeth, **fields)
      end

      def wide_gap(place, ratio, share)
        pair = [place.index + 1, ((place.index + 1) % @count) + 1]
        fields, words = slip(ratio)
        add("wide_gap", certainty(place.visits, share), "The gap between teeth #{pair.join(' and ')} is #{ratio.round(2)} of a normal one, each turn: a ring that has split and sprung open.#{words}", at_s: within_gaps([[place, ratio, share]]), gap_ratio: ratio.round(3), teeth: pair, **fields)
      end

      # The middles of the long periods behind these places, in seconds.
      def within_gaps(rows)
        places = rows.map { |place, _, _| place.index }
        train.teeth.each_cons(2).filter_map { |a, b| (a.time_s + b.time_s) / 2 if a.ratio && a.spread >= limit("wide_gap_from") && places.include?(a.position % @count) }
      end

      # From where to where a controller would take a gap for slip: fields, and words; neither where the tyre is not known.
      def slip(gap)
        return [{}, ""] unless @circumference_m

        from, upto = LowSpeedDip.new(gap: gap, teeth: @count, circumference_m: @circumference_m).slip_range
        [{ slip_from_km_h: from, slip_to_km_h: upto }, from ? " Taken for slip from #{from} to #{upto} km/h." : " Too small to be taken for slip."]
      end

      LOST_FROM = 1.5 # common practice: gap rule for events

      # A gap of the ring, or a neighbour that shares it.
      def near_gap?(tooth, ring)
        [-1, 0, 1].any? { |offset| ring.include?((tooth.position + offset) % @count) }
      end

      # Gaps that do not keep time with the wheel.
      def dropouts(ring)
        loose = train.teeth.each_index.select { |i| (tooth = train.teeth[i]).ratio && tooth.ratio >= LOST_FROM && tooth.sure && !near_gap?(tooth, ring) }
        return if loose.empty?

        count = 1 + loose.each_cons(2).count { |a, b| b - a > 2 } # a gap seen from both its ends is one
        add("dropouts", [0.6 + (0.1 * count), 0.97].min, "The signal breaks off #{count == 1 ? 'once' : "#{count} times"}, at no fixed place of the ring: plug, lead or gap.", at_s: loose.map { |i| train.teeth[i].time_s }, count: count)
      end

      # gapped: places at which the ring has a gap.
      def amplitudes(gapped)
        damaged(gapped) if follows_speed?
        depth = map.once_a_turn
        return if sensor == "active" || depth < limit("runout_from")

        add("runout", 0.95, "The amplitude swells and sinks once a turn, #{depth.round(2)} of its mean: ring out of true, bearing play or a bent shaft.", depth: depth.round(3))
      end

      # A tooth beside a gap reads low for the gap's sake.
      def damaged(gapped)
        low = map.places.select { |place| place.swing && place.visits >= 2 && gapped.none? { |gap| beside_gap?(place.index, gap) } && place.swing < limit("damaged_below") * map.around(place) && steadily_low?(place) }
        return if low.empty?

        teeth = low.map { |place| place.index + 1 }
        add("damaged_tooth", certainty(low.map(&:visits).min, 1.0), "#{teeth.size == 1 ? 'Tooth' : 'Teeth'} #{teeth.join(', ')} read low each turn: worn, chipped or covered.", at_s: train.teeth.select { |tooth| teeth.include?((tooth.position % @count) + 1) }.map(&:time_s), teeth: teeth)
      end

      # On either side of a gap behind place `gap`; between them nothing was seen.
      def beside_gap?(index, gap)
        after = (1..@count).find { |step| map.places[(gap + step) % @count].visits.positive? }
        [gap, (gap + after) % @count].include?(index)
      end

      def steadily_low?(place)
        around = map.around(place)
        place.swings.count { |swing| swing < limit("damaged_below") * around } >= limit("repeats_share") * place.swings.size
      end

      # Interference between the teeth.
      def passing
        spikes = spikes_at_s
        count = train.extra + (spikes.empty? ? 0 : 1 + spikes.each_cons(2).count { |(i, _), (j, _)| j - i > 2 })
        return if count.zero?

        add("extra_edges", [0.6 + (0.1 * count), 0.97].min, "#{count} edges too many, at no fixed place of the ring: interference, or a lead beside an ignition or motor cable.", at_s: (train.extra_at_s + spikes.map(&:last)).sort, count: count)
      end

      SPIKE = 1.6 # times its neighbours' swing, once and not each turn

      # Interference that fell on a tooth and only made it taller: [[index, seconds], ...].
      def spikes_at_s
        swings = train.teeth.map(&:swing)
        tall = swings.each_index.select { |i| train.teeth[i].sure && swings[i] > SPIKE * RingMap.median(swings[[i - 4, 0].max..(i + 4)]) }
        loose = tall.reject { |i| tall.any? { |j| i != j && ((train.teeth[i].position - train.teeth[j].position) % @count).zero? } }
        loose.map { |i| [i, train.teeth[i].time_s] }
      end

      # By amplitude at one turn a second, to which it is in proportion.
      def weak
        return unless follows_speed? && @channel.unit != "A"

        volts = RingMap.median(train.teeth.map { |tooth| tooth.swing / tooth.turns })
        return if volts >= limit("weak_below")

        turns = limit("controller_volt") / volts
        speed = @circumference_m && (turns * @circumference_m * 3.6)
        lost = speed ? "#{speed.round(1)} km/h" : "#{turns.round(2)} turns a second"
        add("weak_amplitude", 0.95, "#{(volts * 1000).round} mV peak to peak at one turn a second: weak. The controller would lose it below #{lost}.",
            peak_to_peak_v: volts.round(4), lost_below_turns_s: turns.round(3), lost_below_km_h: speed&.round(2))
      end

      # Does the pattern of the ring come back after another number of teeth than expected? Where none is, that is the count.
      def recount
        seen = ToothCount.of(train.teeth, @count, swings: follows_speed?, points: points(@finder.passages)) or return
        add("tooth_count_mismatch", 0.9, "The ring comes round after #{seen} teeth, not #{@teeth}: a wrong ring, or a wrong count asked for.", seen: seen, expected: @teeth) if @teeth
        @count = seen
        @train = train_of(seen)
      end
    end
  end
end
