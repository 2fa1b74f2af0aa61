# frozen_string_literal: true

module Gadwall
  module Circuits
    # One way in which one place of a harness can fail, with how often, how badly, and how constantly.
    #
    # id: relative to the circuit ("body_connector.signal.high_resistance"); place: where the hand would mend it;
    # rate: relative to all faults of the vehicle; intermittent: share of such faults that come and go (0..1);
    # severities: [[value, weight], ...], weights sum to 1; target: the elements or nodes that it changes; record: of
    # data/parts, for what an effect needs beside.
    Fault =
      Struct.new(
        :id,
        :mode,
        :place,
        :name,
        :effect,
        :rate,
        :intermittent,
        :severities,
        :target,
        :pattern,
        :repair,
        :record,
        :source,
        keyword_init: true
      ) do
        # As bad as such a fault usually is.
        def middle_severity
          severities[severities.size / 2].first
        end

        # Does one of the patterns (a String or an Array, * for any) name its place and mode, "ring.tooth_missing"?
        def named?(patterns)
          Array(patterns).any? { |pattern| File.fnmatch(pattern, "#{place}.#{mode}") }
        end
      end
  end
end
