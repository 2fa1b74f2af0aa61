# frozen_string_literal: true

module Gadwall
  module Signals
    # A sampled waveform: times in seconds, rising, and as many values for each channel. edges_only: of logic, values 0
    # and 1 at the moments of change.
    class Capture
      # unit: "V", "A" or ""; values: Array of Float.
      Channel = Struct.new(:name, :unit, :values, keyword_init: true)

      attr_reader :time_s, :channels, :edges_only

      def initialize(time_s, channels, edges_only: false)
        @time_s = time_s
        @channels = channels
        @edges_only = edges_only
      end

      # How many there are.
      def samples
        time_s.size
      end

      # Seconds from the first to the last.
      def duration_s
        samples < 2 ? 0.0 : time_s.last - time_s.first
      end

      # By name; where none is given, the first of this unit, or the first of all. Raises UnknownNameError.
      def channel(name = nil, unit: nil)
        return channels.find { |each| each.unit == unit } || channels.first if name.nil?

        channels.find { |each| each.name.casecmp?(name.strip) } or
          raise UnknownNameError.new(field: "channel", given: name, known: channels.map(&:name))
      end
    end
  end
end
