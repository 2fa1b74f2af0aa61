# frozen_string_literal: true

module Gadwall
  module Circuits
    # What a harness is like with faults put in: which resistances change (given the network of a state), which sources
    # and sinks are weaker, which contacts are held by force, and what shows in other ways than by wiring.
    # `Condition::SOUND` is the harness as it should be.
    #
    # series: {element id => ohms added}; bridges: [[node, node, ohm]]; drives: {source id => factor}; sink: factor on
    # the sink's current; settings: {"level" => "low"} held whatever the state asks; observables: names of what is wrong
    # beyond wiring ("stalled", "uncalibrated"), which data/circuits and data/tests speak of.
    # Of a wheel signal: amplitude: factor; pattern: "even", "one_gap", "uneven", "ratio"; deaf: the input does not
    # hear.
    class Condition
      attr_reader :series, :bridges, :drives, :sink, :settings, :observables, :amplitude, :pattern, :deaf

      def initialize(
        series: {},
        bridges: [],
        drives: {},
        sink: 1.0,
        settings: {},
        observables: [],
        amplitude: 1.0,
        pattern: "even",
        deaf: false
      )
        @series = series
        @bridges = bridges
        @drives = drives
        @sink = sink
        @settings = settings
        @observables = observables
        @amplitude = amplitude
        @pattern = pattern
        @deaf = deaf
        freeze
      end

      SOUND = new

      # Both conditions at once: several faults in one harness.
      def +(other)
        Condition.new(
          series: series.merge(other.series) { |_, a, b| a + b },
          bridges: bridges + other.bridges,
          drives: drives.merge(other.drives) { |_, a, b| a * b },
          sink: sink * other.sink,
          settings: other.settings.merge(settings),
          observables: observables | other.observables,
          amplitude: amplitude * other.amplitude,
          pattern: pattern == "even" ? other.pattern : pattern,
          deaf: deaf || other.deaf
        )
      end

      # The same wiring as a scope on the module's pins sees it: whether the module hears does not matter there.
      def with_hearing
        Condition.new(
          series: series,
          bridges: bridges,
          drives: drives,
          sink: sink,
          settings: settings,
          observables: observables,
          amplitude: amplitude,
          pattern: pattern
        )
      end
    end
  end
end
