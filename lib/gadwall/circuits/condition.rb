# frozen_string_literal: true

module Gadwall
  module Circuits
    # What a line is like with faults put in: which conductances change (given the network of a state), which sources and
    # sinks are weaker, and what the moving parts do to the pulses. `Condition::SOUND` is the line as it should be.
    #
    # series: {element id => ohms added}; bridges: [[node, node, ohm]]; drives: {source id => factor};
    # sink: factor on the sink's current; amplitude: factor on the signal; pattern: "even", "one_gap", "uneven", "ratio";
    # deaf: the module's input does not hear.
    class Condition
      attr_reader :series, :bridges, :drives, :sink, :amplitude, :pattern, :deaf

      def initialize(series: {}, bridges: [], drives: {}, sink: 1.0, amplitude: 1.0, pattern: "even", deaf: false)
        @series = series
        @bridges = bridges
        @drives = drives
        @sink = sink
        @amplitude = amplitude
        @pattern = pattern
        @deaf = deaf
        freeze
      end

      SOUND = new

      # Both conditions at once: several faults in one line.
      def +(other)
        Condition.new(series: series.merge(other.series) { |_, a, b| a + b }, bridges: bridges + other.bridges,
                      drives: drives.merge(other.drives) { |_, a, b| a * b }, sink: sink * other.sink,
                      amplitude: amplitude * other.amplitude, pattern: pattern == "even" ? other.pattern : pattern,
                      deaf: deaf || other.deaf)
      end

      # The same wiring as a scope on the module's pins sees it: whether the module hears does not matter there.
      def with_hearing
        Condition.new(series: series, bridges: bridges, drives: drives, sink: sink, amplitude: amplitude, pattern: pattern)
      end
    end
  end
end
