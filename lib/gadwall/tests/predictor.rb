# frozen_string_literal: true

module Gadwall
  module Tests
    # What a test on a harness shows under a condition (the harness sound, with a fault, its module dead).
    class Predictor
      ALTERNATING = "V AC" # id of data/meter.yml

      # signal: Circuits::WheelSignal or nil; watch: Watch; places: of the harness, in order.
      # harness: Circuits::Harness; monitors, unpowering: return those of the model that it works for.
      attr_reader :signal, :watch, :places, :harness
      attr_writer :monitors, :unpowering

      # layout: CircuitLayout whose conditions will be asked for together: each test is then swept over all of them.
      def initialize(harness, catalogue, layout = nil)
        @harness = harness
        @layout = layout
        @signal = Circuits::WheelSignal.new(harness) if harness.template["signal"]
        @watch = Watch.new(harness, self)
        @places = harness.places
        @cached = {}
        rest
        @meters = ["ohm", "V", "A", ALTERNATING].to_h { |unit| [unit, catalogue.meter(unit)] }
        @scales = @meters.except(ALTERNATING).transform_values { |meter| Scale.new(meter.unit, meter) }
        @alternating = Scale.new("V", @meters[ALTERNATING], log: true)
        @lead_ohm = catalogue.model("lead_ohm")
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
        @quiet = nil
        @watch&.rest
        @signal&.rest
      end

      # The Scale on which a test's readings are compared.
      def scale(test)
        test.state.spin ? @alternating : @scales.fetch(test.unit)
      end

      # Returns a Prediction::Number or ::Choice. fault: Circuits::Fault or nil, for tests that look at a place.
      def predict(test, condition, fault = nil)
        test.behaviour.predict(self, test, condition, fault)
      end

      # What shows when a fault that comes and goes is met: watched for a while, the signal drops out; moved by hand,
      # the value jumps. nil where this fault takes no part.
      def caught(test, fault)
        test.behaviour.caught(self, test, fault)
      end

      # One object for one distribution, so that tables can tell by identity what shows the same. The block must be
      # pure.
      def cached(key)
        @cached[key] ||= yield
      end

      # The chance that a warning is there because of this condition: seen by the module's monitors, at key on or on the
      # road, or lit because the module is dead. fault: the one that makes the condition, or nil.
      def visible(condition, fault)
        [silenced(condition, fault), *seen_by_monitors(condition, fault).values].max
      end

      # The chances that a code of this condition is back at once, and after driving, and that its module does not
      # answer at all.
      def returning(condition, fault)
        key_on, driving = seen_by_monitors(condition, fault).partition { |claim, _| @monitors.call.key_on?([claim]) }
        [key_on.map(&:last).max || 0.0, driving.map(&:last).max || 0.0, silenced(condition, fault)]
      end

      # Does the fault take part in this test, or has the test put something sound in its place?
      def takes_part?(test, fault)
        return true unless fault && (without = test.record["without"])

        head = @harness.template["near_end"]["id"]
        return false if without.include?("harness") && fault.place != head

        place = fault.place == @harness.template["far_end"]["id"] ? "sensor" : fault.place
        !(without.include?(place) || without.include?(fault.place))
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
          (condition.settings.empty? && !quiet?(test, condition) && reader(test, condition).untouched_by?(condition))
      end

      private

      MISSED = 0.95 # common practice: a module that is dead is missed

      # The chance that the module is missed because this condition takes its power.
      def silenced(condition, fault)
        i = @layout&.atom_index(condition, fault)
        i && @unpowering.call ? MISSED * @unpowering.call[i] : 0.0
      end

      # {claim => chance} of a condition.
      def seen_by_monitors(condition, fault)
        i = @layout&.atom_index(condition, fault)
        i ? @monitors.call.of_atom(i) : @monitors.call.of_condition(condition, fault)
      end

      # What moves a reading by less than this share of its spread is not to be told from a sound harness.
      UNSEEN = 0.01

      def measure(test, condition)
        return measure_alone(test, condition) if quiet?(test, condition)

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
            ghost = test.behaviour.ghost(reading.source_ohm, reading.value)
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
            hump(test, value, variance, test.behaviour.ghost(sample.source_ohm, value), scale, 1.0 / levels.size)
          end
        Prediction::Number.new(humps, scale)
      end

      # samples: by level of the sink, each with value and source_ohm.
      def unseen?(test, samples, sound, scale)
        k = -1
        sound.each_hump do |mean, sigma, _|
          sample = samples[k += 1]
          return false if (scale.of(alternating(test, sample.value)) - mean).abs >= UNSEEN * sigma
          return false if test.behaviour.ghost?(sample.source_ohm)
        end
        true
      end

      # Tests in the same state share a reader, and with it the factorised networks. A contact that sticks holds the
      # state.
      def reader(test, condition)
        return reader_in(test.state.with(@harness.template["quiet"]["instead"])) if quiet?(test, condition)
        return @reader_of[test] ||= reader_in(test.state) if condition.settings.empty?

        reader_in(test.state.with(condition.settings))
      end

      # Is a bus that the test finds busy silent under this condition, so that its lines lie at their levels of rest
      # (`quiet` of the template)?
      def quiet?(test, condition)
        rule = @harness.template["quiet"]
        return false if rule.nil? || condition.equal?(Circuits::Condition::SOUND)
        return false unless rule["when"].all? { |name, value| test.state[name] == value }

        @quiet ||= {}.compare_by_identity
        @quiet.fetch(condition) do
          state = Circuits::Harness::State.of(**rule["state"].transform_keys(&:to_sym))
          @quiet[condition] = reader_in(state).read("volts", rule["probes"], condition) < rule["below"]
        end
      end

      def reader_in(state)
        @readers[state] ||= Circuits::Reader.new(@harness, state)
      end

      def levels_of(test)
        test.state.key == "on" && @harness.sink ? @harness.sink_levels : [0.0]
      end

      # The range that the meter stands in: a wheel turned by hand gives an alternating voltage.
      def meter_of(test)
        @meters[test.unit == "V" && test.state.spin ? ALTERNATING : test.unit]
      end

      # [mean, sigma, weight] on the scale of the test, of a value with the variance of the parts behind it.
      def hump(test, value, variance, ghost, scale, weight)
        hand = test.behaviour.hand(test, value, meter_of(test), @scatter, @lead_ohm)
        spread = Math.sqrt(variance + (hand**2) + (ghost**2))
        [scale.of(value), [scale.spread(value, spread), test.behaviour.least(value)].max, weight]
      end

      def sample(test, condition, ampere)
        reader(test, condition).sample(test.kind, test.probes, condition, ampere: ampere)
      end

      # Alternating voltage has no sign.
      def alternating(test, value)
        test.state.spin ? value.abs : value
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
        test.behaviour.sources_off? ? all.reject(&:drive) : all
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
    end
  end
end
