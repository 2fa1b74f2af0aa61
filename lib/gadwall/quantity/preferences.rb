# frozen_string_literal: true

module Gadwall
  module Quantity
    # The units that a workshop likes, set once. The record keeps its own (bar, N m, km/h, mm, mm2); where pages and
    # reports show a quantity it is in the workshop's, and a figure typed without a unit is. Words are never touched.
    # Frozen.
    class Preferences
      NUMBER = /-?\d+(?:[.,]\d+)?/
      # "5 bar", "0 to 5 bar", "15-60 km/h", "110 N·m".
      QUANTITY =
        %r{(?<![\w.,])(?<first>#{NUMBER})(?:(?<between>\s?(?:to|and|–|-)\s?)(?<second>#{NUMBER}))?(?<gap>[\s\u00A0]?)
          (?<unit>bar|N[\s·]m|km/h|mm²|mm2|mm)(?![\w/²])}x
      TYPED = /\A\s*(#{NUMBER})\s*([^\d\s].*?)?\s*\z/
      SIGNS = { "N·m" => "N m", "mm²" => "mm2" }.freeze
      LEAST_DIGITS = 3
      MOST_DIGITS = 4

      # chosen: {kind of Units::CHOICES => unit}; what is missing stays as the record has it. Raises InputError.
      def initialize(chosen = {})
        @chosen =
          Units::CHOICES.to_h do |kind, units|
            unit = chosen[kind] || units.first
            raise UnknownNameError.new(field: kind, given: unit, known: units) unless units.include?(unit)

            [kind, unit]
          end
        @by_unit = Units::CHOICES.to_h { |kind, units| [units.first, @chosen[kind]] }.freeze
        @chosen.freeze
        freeze
      end

      # For the store.
      def to_h
        @chosen
      end

      # Are all units those of the record?
      def own?
        @by_unit.all? { |unit, shown| unit == shown }
      end

      # The unit that is shown in place of the record's. unit: text.
      def unit(unit)
        @by_unit.fetch(unit, unit)
      end

      # A number of the record as it is shown. Returns a Float, the number itself where its unit stays.
      def shown(value, unit)
        unit(unit) == unit ? value : Units.convert(value, unit, unit(unit))
      end

      # A number as typed, in the record's unit. text: with a unit of its own ("72 psi") or without. Returns text; what
      # is no number stays as it is.
      def kept(text, unit)
        match = TYPED.match(text.to_s) or return text
        typed = SIGNS.fetch(match[2].to_s, match[2])
        from = typed && Units.known?(typed) ? typed : unit(unit)
        return text if typed && from != typed
        return match[1] if from == unit

        plain(Units.convert(match[1].tr(",", ".").to_f, from, unit), 6)
      rescue InputError
        text
      end

      # A text with its quantities in the workshop's units.
      def in_text(text)
        return text if own?

        text.gsub(QUANTITY) { |whole| replaced(whole, Regexp.last_match) }
      end

      # The same for a drawing of the core's own: texts between tags, nothing within them.
      def in_svg(svg)
        return svg if own?

        svg.gsub(/<[^>]*>|[^<]+/) { |part| part.start_with?("<") ? part : in_text(part) }
      end

      private

      def replaced(whole, match)
        unit = SIGNS.fetch(match[:unit], match[:unit])
        shown = unit(unit)
        return whole if shown == unit

        numbers = [match[:first], match[:second]].compact.map { |number| converted(number, unit, shown) }
        return "AWG #{numbers.join(match[:between].to_s)}" if shown == "AWG"

        "#{numbers.join(match[:between].to_s)}#{match[:gap]}#{shown.sub(" ", "·")}"
      end

      # As many sensible digits as the number had, three to four.
      def converted(number, unit, shown)
        value = Units.convert(number.tr(",", ".").to_f, unit, shown)
        return value.round.to_s if shown == "AWG"

        plain(value, number.delete("-.,").sub(/\A0+/, "").length.clamp(LEAST_DIGITS, MOST_DIGITS))
      rescue InputError
        number
      end

      def plain(value, digits)
        return "0" if value.zero?

        rounded = value.round(digits - 1 - Math.log10(value.abs).floor)
        rounded == rounded.round && rounded.abs < 1e9 ? rounded.round.to_s : rounded.to_s
      end
    end
  end
end
