# frozen_string_literal: true

module Gadwall
  module Testing
    # What a test on a harness shows under a condition (the harness sound, with a fault, its module dead).
    class Predictor
      GHOST_VOLT = 0.02 # common practice: what a 10 Mohm meter picks up on an open lead
      GHOST_OHM = 2.0e6 # common practice: behind more than this a 10 Mohm meter shows ghosts
      GHOST_SPREAD = 0.12
      GHOST_SHARE = 0.35
      # common practice: sound pins and ground points differ by a factor, and with them a drop of some tenths of a volt
      DROP_SCATTER = 0.4
      GHOST_AMPERE = 0.00005 # common practice: zero of a hand-held meter on milliamperes

      # layout: CircuitLayout whose conditions will be asked for together: each test is then swept over all of them.
      def initialize(harness, catalogue, layout = nil)
        @harness = harness
        @layout = layout
        @catalogue = catalogue
        @signal = Circuits::WheelSignal.new(harness) if harness.template["signal"]
        @watch = Watch.new(harness, self)
        @places = harness.places
        @cached = {}
        rest
        @meters = %w[ohm V A].to_h { |unit| [unit, catalogue.meter(unit)] }
        @scales = @meters.transform_values { |meter| Scale.new(meter.unit, meter) }
        @alternating = Scale.new("V", @meters["V"], log: true)
        @harness_start = catalogue.model("lead_ohm")
        @scatter = catalogue.model("scatter")
        @sink_id = harness.sink && harness.sink["id"]
      end

      # Lets go of the solved networks. They are made again when something new is asked.
      def rest
        @readers = {}
        @reader_of = {}.compare_by_identity
        @sweeps = {}.compare_by_identity
        @sound_of = {}.compare_by_identity
        @moves = nil
        @watch&.rest
        @signal&.rest
      end

      # The Scale on which a test's readings are compared.
      def scale(test)
        test.state.spin ? @alternating : @scales.fetch(test.unit)
      end

      # Returns a Prediction::Number or ::Choice. fault: Circuits::Fault or nil, for tests that look at a place.
      def predict(test, condition, fault = nil)
        case test.kind
        when "signal"
          signal(test, fault_left(test, fault) ? condition : Circuits::Condition::SOUND)
        when "table"
          table(test, fault)
        when "watch"
          @watch.predict(test, fault_left(test, fault) ? condition : Circuits::Condition::SOUND, fault)
        when "wiggle"
          jump(test, test.record["otherwise"])
        else
          number(test, condition)
        end
      end

      # What shows when a fault that comes and goes is met: watched for a while, the signal breaks off; moved by hand,
      # the value jumps. nil where this fault takes no part.
      def caught(test, fault)
        return jump(test, wiggle_chance(test, fault)) if test.kind == "wiggle"

        return unless fault_left(test, fault)

        test.kind == "watch" ? @watch.caught(test, fault) : category(test, "dropouts")
      end

      # The chance of seeing a fault that comes and goes move: when its own place is moved, a neighbour, all beyond a
      # connector, or something else.
      def wiggle_chance(test, fault)
        moved = @places.index(test.place)
        at = @places.index(fault.place)
        case test.record["span"]
        when "beyond"
          test.record[at > moved && fault.place != "ring" ? "here" : "elsewhere"]
        when "before"
          test.record[at < moved ? "here" : "elsewhere"]
        else
          test.record[%w[here near].fetch((moved - at).abs, "elsewhere")]
        end
      end

      # Does the fault take part in this test, or has the test put something sound in its place?
      def takes_part?(test, fault)
        fault_left(test, fault)
      end

      # Category of the pulses as the module sees them; monitors look at this.
      def module_signal(condition)
        @signal&.at_module(condition)
      end

      # A monitor's or a test's plain number, humps and all. A condition that does not touch the state's network shows
      # what a sound harness shows.
      def number(test, condition)
        sound = @sound_of[test] || (@sound_of[test] = measure(test, Circuits::Condition::SOUND))
        plain?(test, condition) ? sound : measure(test, condition)
      end

      # Does the test show what it would show on a sound harness?
      def plain?(test, condition)
        condition.equal?(Circuits::Condition::SOUND) ||
          (condition.settings.empty? && reader(test, condition).untouched_by?(condition))
      end

      private

      # What moves a reading by less than this share of its spread is not to be told from a sound harness.
      UNSEEN = 0.01

      def measure(test, condition)
        i = @layout&.condition_index(condition)
        sweeps = i && sweeps(test)
        readings = sweeps&.map { |sweep| sweep.reading(i) }
        readings&.all? ? swept(test, sweeps, readings) : measure_alone(test, condition)
      end

      # One Circuits::Sweep for each level of the sink.
      def sweeps(test)
        @sweeps[test] ||= levels_of(test).map do |ampere|
          moves = moves(test, Circuits::Condition::SOUND)
          reader(test, Circuits::Condition::SOUND).sweep(
            test.kind,
            test.probes,
            @layout.conditions,
            moves,
            ampere: ampere,
            absolute: test.state.spin
          )
        end
      end

      def swept(test, sweeps, readings)
        scale = scale(test)
        sound = @sound_of[test]
        return sound if sound && unseen?(test, readings, sound, scale)

        weight = 1.0 / sweeps.size
        humps =
          readings.each_with_index.map do |reading, k|
            ghost = ghost(test, reading.source_ohm, reading.value)
            hump(test, reading.value, sweeps[k].variance(reading), ghost, scale, weight)
          end
        Prediction::Number.new(humps, scale)
      end

      def measure_alone(test, condition)
        scale = scale(test)
        levels = levels_of(test)
        samples = levels.map { |ampere| sample(test, condition, ampere) }
        sound = @sound_of[test]
        return sound if sound && unseen?(test, samples, sound, scale)

        humps =
          samples.each_with_index.map do |sample, k|
            value = alternating(test, sample.value)
            variance = tolerance(test, condition, levels[k], sample, value)
            hump(test, value, variance, ghost(test, sample.source_ohm, value), scale, 1.0 / levels.size)
          end
        Prediction::Number.new(humps, scale)
      end

      # samples: by level of the sink, each with value and source_ohm.
      def unseen?(test, samples, sound, scale)
        k = -1
        sound.each_hump do |mean, sigma, _|
          sample = samples[k += 1]
          return false if (scale.of(alternating(test, sample.value)) - mean).abs >= UNSEEN * sigma
          return false if test.kind == "volts" && sample.source_ohm >= GHOST_OHM
        end
        true
      end

      # Tests in the same state share a reader, and with it the factorised networks. A contact that sticks holds the
      # state.
      def reader(test, condition)
        return @reader_of[test] ||= reader_in(test.state) if condition.settings.empty?

        reader_in(test.state.with(condition.settings))
      end

      def reader_in(state)
        @readers[state] ||= Circuits::Reader.new(@harness, state)
      end

      def levels_of(test)
        test.state.key == "on" && @harness.sink ? @harness.sink_levels : [0.0]
      end

      # [mean, sigma, weight] on the scale of the test, of a value with the variance of the parts behind it.
      def hump(test, value, variance, ghost, scale, weight)
        spread = Math.sqrt(variance + (hand(test, value)**2) + (ghost**2))
        [scale.of(value), [scale.spread(value, spread), least(test, value)].max, weight]
      end

      # Leakage is whatever the day's damp makes it.
      def least(test, value)
        test.kind == "ohms" && value > 2.0e6 ? 0.6 : 0.0
      end

      def sample(test, condition, ampere)
        reader(test, condition).sample(test.kind, test.probes, condition, ampere: ampere)
      end

      # Alternating voltage has no sign.
      def alternating(test, value)
        test.state.spin ? value.abs : value
      end

      # One sigma from the meter, from the leads and from the hand.
      def hand(test, value)
        return GHOST_AMPERE + (value.abs * @scatter) if test.kind == "amperes"

        scatter = test.record["drop"] ? DROP_SCATTER : @scatter
        contact =
          if test.kind == "ohms"
            @harness_start
          else
            GHOST_VOLT * (test.state.spin ? 0.1 : 1.0)
          end
        Math.sqrt((@meters[test.unit].sigma(value)**2) + (contact**2) + ((scatter * value)**2))
      end

      # One sigma for what a voltmeter shows on a lead that hangs in the air: anything up to some tenths of a volt, and
      # what comes through leakage only roughly.
      def ghost(test, source_ohm, value)
        test.kind == "volts" && source_ohm > GHOST_OHM ? GHOST_SPREAD + (GHOST_SHARE * value.abs) : 0.0
      end

      # Variance from the tolerance of the parts: each moved by its own sigma, the reading taken again.
      def tolerance(test, condition, ampere, sample, value)
        moves(test, condition).sum do |move|
          moved =
            if move.id == @sink_id
              sample(test, condition, ampere * move.factor).value
            else
              reader(test, condition).moved(test.kind, sample, condition, move)
            end
          (alternating(test, moved) - value)**2
        end
      end

      # The parts whose tolerance a reading in this state can show. An ohmmeter works with the sources off.
      def moves(test, condition)
        reader = reader(test, condition)
        all = (@moves ||= {}.compare_by_identity)[reader] ||= moves_in(reader)
        test.kind == "ohms" ? all.reject(&:drive) : all
      end

      def moves_in(reader)
        @harness.template["toleranced"]
          .filter_map do |row|
            sigma = @harness.tolerance(row["value"] || row["drive"])
            drive = row.key?("drive")
            if sigma.positive? && reader.plays?(row["element"], drive: drive)
              Circuits::Reader::Move.new(row["element"], 1 + sigma, drive).freeze
            end
          end
          .freeze
      end

      def signal(test, condition)
        category =
          case test.record["at"]
          when "connector"
            @signal.at(condition, test.probes, test.state)
          when "module_pins"
            @signal.at_module(condition.with_hearing)
          else
            @signal.at_module(condition)
          end
        category(test, category)
      end

      # A category as the test can tell it, with its misses spread over the other outcomes.
      def category(test, name)
        name = (test.record["blind"] || {}).fetch(name, name)
        name = "even" unless test.outcomes.key?(name)
        miss = (1 - test.record["hit"]) / (test.outcomes.size - 1)
        cached([test.id, name]) do
          Prediction::Choice.new(
            test.outcomes.to_h { |outcome, _| [outcome, outcome == name ? test.record["hit"] : miss] }
          )
        end
      end

      def jump(test, chance)
        cached([test.id, chance]) { Prediction::Choice.new(test.outcomes.keys.last => chance, "good" => 1 - chance) }
      end

      # One object for one distribution, so that tables can tell by identity what shows the same.
      def cached(key)
        @cached[key] ||= yield
      end

      # Does the fault take part in this test, or has the test put something sound in its place?
      def fault_left(test, fault)
        return true unless fault && (without = test.record["without"])

        head = @harness.template["near_end"]["id"]
        return false if without.include?("harness") && fault.place != head

        place = fault.place == @harness.template["far_end"]["id"] ? "sensor" : fault.place
        !(without.include?(place) || without.include?(fault.place))
      end

      # What is seen at a place, by the first row that speaks of the fault ("*.wet" speaks of water anywhere).
      def table(test, fault)
        row =
          fault &&
            test.record["rows"].find { |candidate| File.fnmatch(candidate["fault"], "#{fault.place}.#{fault.mode}") }
        cached([test.id, row && row["fault"]]) do
          seen = row ? row["outcome"] : {}
          left = 1 - seen.values.sum
          chances = test.record["otherwise"].transform_values { |chance| chance * left }.merge(seen)
          Prediction::Choice.new(chances.merge("good" => 1 - chances.values.sum))
        end
      end
    end
  end
end
