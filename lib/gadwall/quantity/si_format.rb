# frozen_string_literal: true

module Gadwall
  module Quantity
    # Numbers for people: three significant digits, SI prefix, unit. 1100 ohm is "1.10 kohm".
    module SIFormat
      STEPS = [[1e9, "G"], [1e6, "M"], [1e3, "k"], [1.0, ""], [1e-3, "m"], [1e-6, "u"]].freeze

      # value: Float in the bare unit; unit: text. Infinity is "OL".
      def self.call(value, unit, digits: 3)
        return "OL" if value.infinite?
        return "0 #{unit}" if value.abs < 1e-9

        steps = unit == "ohm" ? STEPS.first(4) : STEPS # a bench meter shows 0.05 ohm, not 50 mohm
        scale, prefix = steps.find { |step, _| rounded(value.abs, digits) >= step } || steps.last
        "#{significant(value / scale, digits)} #{prefix}#{unit}"
      end

      def self.rounded(value, digits)
        return 0.0 if value.zero?

        value.round(digits - 1 - Math.log10(value).floor)
      end

      def self.significant(value, digits)
        magnitude = value.zero? ? 0 : Math.log10(rounded(value.abs, digits)).floor
        decimals = (digits - 1 - magnitude).clamp(0, 3)
        text = format("%.#{decimals}f", value)
        text.include?(".") ? text.sub(/0+\z/, "").delete_suffix(".") : text
      end
      private_class_method :rounded, :significant
    end
  end
end
