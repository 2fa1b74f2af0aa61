# frozen_string_literal: true

module Gadwall
  module Repair
    # A figure of a step as a meter shows it: "0.00", "-0.02", "12,4", "60M", "OL", "> 60 M", "< 0.1". Frozen.
    #
    # value: Float in the unit that was asked for, INFINITY for over limit; bound: ">" or "<" where the meter only says
    # that it is more or less, else nil.
    FigureText =
      Struct.new(:value, :bound, keyword_init: true) do
        # typed: text; unit: as asked ("Mohm", "V"). Returns a FigureText, or nil where it is no figure.
        def self.read(typed, unit)
          text = typed.to_s.strip
          if text.match?(FigureText::OVER_LIMIT)
            return unit.to_s.end_with?("ohm") ? new(value: Float::INFINITY).freeze : nil
          end
          match = FigureText::FIGURE.match(text) or return nil
          scale = FigureText.scale(match[:rest].strip, unit.to_s) or return nil
          value = Float(match[:number].tr(",−", ".-"), exception: false)
          value&.finite? ? new(value: value * scale, bound: match[:bound]&.tr("≥≤", "><")).freeze : nil
        end

        # What a number is multiplied by for its prefix and unit: 1 where none stands. rest: what follows the number.
        # Returns a Float, or nil where that is no such unit.
        def self.scale(rest, unit)
          own, base = FigureText.parts(unit)
          return 1.0 if rest.empty?

          prefix =
            FigureText::PREFIXES.keys.find { |each| ["#{each}#{base}", each].include?(rest.sub(/[Ω\u2126]/, "ohm")) }
          prefix && (FigureText::PREFIXES[prefix] / own)
        end

        # [what the prefix of a unit stands for, the unit without it].
        def self.parts(unit)
          match = /\A([kM])(ohm)\z/.match(unit)
          match ? [FigureText::PREFIXES.fetch(match[1]), match[2]] : [1.0, unit]
        end

        # Is it as an ask has it? low, high: limits; sound: "above" (the least counts), "below" (the most counts), or
        # nil for both. A meter's zero may stand a little under zero.
        def within?(low, high, sound)
          case sound
          when "above"
            bound != "<" && value >= low
          when "below"
            bound != ">" && value <= high && value >= low - (FigureText::ZERO_SHARE * high.abs)
          else
            bound.nil? && value.between?(low, high)
          end
        end
      end
    FigureText::OVER_LIMIT = /\A(?:O\.?L\.?|over ?limit|inf(?:inite)?|∞)\s*(?:[kM]?(?:ohm|Ω))?\z/i
    FigureText::FIGURE =
      /
      \A(?<bound>[<>≤≥])?\s*
      (?<number>[+−-]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*
      (?<rest>[^\d.,]{0,8})\z
    /x
    FigureText::PREFIXES = { "" => 1.0, "m" => 1e-3, "k" => 1e3, "M" => 1e6, "G" => 1e9 }.freeze
    FigureText::ZERO_SHARE = 0.25 # of the most that is sound: how far under zero a zero may stand; common practice
  end
end
