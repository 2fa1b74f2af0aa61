# frozen_string_literal: true

module Gadwall
  module Signals
    # What a wheel-speed signal tells of ring, sensor and wiring. Works in the order of the ring: what comes back at the
    # same tooth turn after turn belongs to the ring; what does not, to wiring, gap or interference.
    class WheelSpeed
      include Findings
      include RingFindings
      include WiringFindings

      # kind and fields as in docs formats section 3; confidence 0..1; text for the technician.
      Finding =
        Struct.new(:kind, :confidence, :text, :details, keyword_init: true) do
          # The fields of docs/formats/captures.md.
          def to_h
            { kind: kind, **details, confidence: confidence.round(2), text: text }
          end
        end
      LEAST_POINTS = 4.0 # samples a tooth, below which nothing can be said
      USUAL_COUNT = 48 # common practice: where nobody says how many teeth
      CONFIDENT = 0.99

      attr_reader :map, :train, :revolutions

      # capture: Capture (of one variable where edges only); teeth: in a turn; sensor: "passive", "active" or nil to
      # find out;
      # circumference_m: for km/h, or nil. Raises InputError, UnknownNameError.
      def initialize(
        capture,
        channel: nil,
        teeth: nil,
        sensor: nil,
        circumference_m: nil,
        catalogue: Knowledge.catalogue
      )
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

      # "clean", "faulty" or "unreadable".
      def verdict
        return "unreadable" if @unreadable

        findings.empty? ? "clean" : "faulty"
      end

      # The fields of docs/formats/captures.md.
      def to_h
        {
          signal: "wheel_speed",
          channel: @channel.name,
          samples: @capture.samples,
          duration_s: @capture.duration_s.round(6),
          revolutions: revolutions&.round(2),
          teeth: @count,
          sensor: sensor,
          verdict: verdict,
          findings: findings.map(&:to_h),
          note: note
        }.compact
      end

      # In a sentence, what stands in the way of a verdict or of trusting it; or nil.
      def note
        return @unreadable if @unreadable || map.nil?

        if @finder.mains_hz
          "Steady at #{@finder.mains_hz.round} Hz, as the mains are: rotate the wheel faster and see whether it " \
            "follows."
        end
      end

      # Tooth by tooth, and the mean number of teeth a second, missing ones counted.
      def drawn
        return {} unless map

        {
          ring: map.teeth,
          tooth_hz: (train.teeth.last.position / (train.teeth.last.time_s - train.teeth.first.time_s)).round(3)
        }
      end

      # The signal, and the speed of the wheel beneath it.
      def trace
        Waveform.of(@capture, first: @channel, more: train ? [speed] : [])
      end

      private

      # In km/h where the tyre is known. A tooth's own speed is that of the period behind it.
      def speed
        per_turn = @circumference_m ? @circumference_m * 3.6 : 1.0
        teeth = train.teeth.select(&:ratio)
        Waveform::Panel.new(
          title: "Speed of the wheel",
          unit: @circumference_m ? "km/h" : "turns/s",
          time_s: teeth.map(&:time_s),
          series: {
            "each tooth" => teeth.map { |tooth| tooth.turns * per_turn / tooth.ratio },
            "smoothed" => teeth.map { |tooth| tooth.turns * per_turn }
          }
        )
      end

      def follows_speed?
        sensor == "passive"
      end

      def analyse # rubocop:disable Metrics/MethodLength -- one pass, step by step
        passages = @finder.passages
        return silent if passages.empty?
        return hum if @finder.mains_hz && coarse?(passages)
        if coarse?(passages)
          return(
            unreadable(
              "Fewer than #{LEAST_POINTS.to_i} samples a tooth: take " \
                "#{Quantity::WheelGeometry.sample_rate(1 / usual_period(passages)).round(-2)} a second or more."
            )
          )
        end

        @count = @teeth || USUAL_COUNT
        @train = @finder.train(@count)
        recount
        @revolutions = train.revolutions
        @map = RingMap.new(train.teeth, @count, follows_speed: follows_speed?)
        return hum if nothing_but_mains?

        weak
        if revolutions < limit("least_turns")
          return(
            unreadable(
              "#{revolutions.round(1)} revolutions: at least 2 are needed to separate ring and wiring. " \
                "Rotate it longer."
            )
          )
        end

        ring = gaps
        # behind the tooth before one so low that it is missed at times
        dropouts(ring + amplitudes(ring).map { |tooth| tooth - 2 })
        passing
      end

      def coarse?(passages)
        points(passages) < LEAST_POINTS
      end

      # Samples a tooth; of logic the moments themselves are known.
      def points(passages)
        @capture.edges_only ? Float::INFINITY : usual_period(passages) * (@capture.samples - 1) / @capture.duration_s
      end

      def usual_period(passages)
        Quantity::Statistics.median(passages.each_cons(2).map { |a, b| b.time_s - a.time_s })
      end

      def silent(
        text = "No teeth in this signal. If the wheel was rotating: tone ring missing, air gap too large, no " \
          "sensor output or open circuit."
      )
        @revolutions = 0.0
        add("no_signal", 0.97, text)
      end

      # A wheel may by chance turn at the mains' frequency; weaker than any sound sensor, or without two levels, it is
      # none.
      def nothing_but_mains?
        @finder.mains_hz && (follows_speed? ? volts_at_one_turn < limit("weak_below") : !@finder.two_levels?)
      end

      def hum
        @map = @train = nil
        @findings.clear
        silent(
          "Nothing here but the mains' #{@finder.mains_hz.round} Hz: no teeth. No sensor output, open circuit, or " \
            "the probe on nothing."
        )
      end

      def unreadable(why)
        @unreadable = why if findings.empty?
      end

      def add(kind, confidence, text, at_s: [], **details)
        mark(kind, at_s)
        findings << Finding.new(
          kind: kind,
          confidence: [confidence, CONFIDENT].min,
          text: text,
          details: details
        ).freeze
      end

      # By amplitude at one turn a second, to which it is in proportion.
      def weak
        return unless follows_speed? && @channel.unit != "A"

        volts = volts_at_one_turn
        return if volts >= limit("weak_below")

        turns = limit("controller_volt") / volts
        speed = @circumference_m && (turns * @circumference_m * 3.6)
        lost = speed ? "#{speed.round(1)} km/h" : "#{turns.round(2)} rev/s"
        least = least_swing
        add(
          "weak_amplitude",
          0.95,
          "#{(least.swing * 1000).round} mV peak to peak at #{least.turns.round(2)} rev/s, " \
            "#{(volts * 1000).round} mV at 1 rev/s: weak. The controller would lose it below #{lost}.",
          peak_to_peak_v: least.swing.round(4),
          at_turns_s: least.turns.round(3),
          at_one_turn_v: volts.round(4),
          lost_below_turns_s: turns.round(3),
          lost_below_km_h: speed&.round(2)
        )
      end

      USEFUL = 0.05 # share of the smallest swings that is left out: a tooth lost, a spike; from memory

      # The tooth with the smallest useful swing, at the speed where it was taken.
      def least_swing
        sorted = train.teeth.sort_by(&:swing)
        sorted[(sorted.size * USEFUL).floor]
      end

      def volts_at_one_turn
        Quantity::Statistics.median(train.teeth.map { |tooth| tooth.swing / tooth.turns })
      end

      # Does the pattern of the ring come back after another number of teeth than expected? Where none is, that is the
      # count.
      def recount
        seen = ToothCount.of(train.teeth, @count, swings: follows_speed?, points: points(@finder.passages)) or return
        if @teeth
          add(
            "tooth_count_mismatch",
            0.9,
            "The ring comes round after #{seen} teeth, not #{@teeth}: a wrong ring, or a wrong count asked for.",
            seen: seen,
            expected: @teeth
          )
        end
        @count = seen
        @train = @finder.train(seen)
      end
    end
  end
end
