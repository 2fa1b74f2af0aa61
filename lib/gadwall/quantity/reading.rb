# frozen_string_literal: true

module Gadwall
  module Quantity
    # One number as a meter showed it: value (Float, in the bare unit) or over limit. Frozen; compares by value.
    class Reading
      attr_reader :value, :unit

      # A reading beyond the meter's range. unit: "ohm", "V" or "A".
      def self.over_limit(unit)
        new(value: Float::INFINITY, unit: unit)
      end

      # value: Float, INFINITY for over limit; unit: "ohm", "V", "A".
      def initialize(value:, unit:)
        raise ArgumentError, "a reading cannot be NaN" if value.respond_to?(:nan?) && value.nan?

        @value = value.to_f
        @unit = unit
        freeze
      end

      # Is it beyond the meter's range?
      def over_limit?
        @value.infinite? ? true : false
      end

      # Equal in value and unit.
      def ==(other)
        other.is_a?(Reading) && other.value == value && other.unit == unit
      end
      alias eql? ==

      # As `==`.
      def hash
        [value, unit].hash
      end

      # "0.6 ohm", "3.3 Mohm", "OL"
      def to_s
        over_limit? ? "OL" : SIFormat.call(value, unit)
      end
    end
  end
end
