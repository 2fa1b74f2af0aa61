# frozen_string_literal: true

module Gadwall
  module Quantity
    # Reads what a technician types at the meter: `0.6`, `3.3M`, `12.4V`, `110k`, `OL`, `0,6`, `1k1`.
    #
    # The prefix is case-sensitive where it must be: `m` is milli, `M` is mega. For ohms, where milli is rare and
    # people type `3.3m` on a phone, a bare `m` is refused with a question and not guessed.
    class ReadingText
      UNITS = {
        "ohm" => {
          symbols: %w[ohm ohms Ω Ω R],
          range: 0.0..1e9,
          name: "ohm"
        },
        "V" => {
          symbols: %w[V v volt volts Vac VAC Vdc VDC],
          range: -100.0..1000.0,
          name: "volt"
        },
        "A" => {
          symbols: %w[A a amp amps],
          range: -400.0..400.0,
          name: "ampere"
        }
      }.freeze
      PREFIXES = {
        "u" => 1e-6,
        "µ" => 1e-6,
        "μ" => 1e-6,
        "m" => 1e-3,
        "" => 1.0,
        "k" => 1e3,
        "K" => 1e3,
        "M" => 1e6,
        "G" => 1e9,
        "meg" => 1e6
      }.freeze
      OVER_LIMIT = /\A(?:O\.?L\.?|over ?limit|open|inf(?:inite)?|∞|----?)\s*(?:[kM]?(?:ohms?|Ω|V|A))?\z/i
      NUMBER = /\A([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:[eE][+-]?\d+)?)\s*(.*)\z/m
      INFIX = /\A(\d+)([kKMR])(\d+)\s*(.*)\z/ # 1k1, 4R7

      # text: what was typed; unit: "ohm", "V" or "A", the unit of the test. Returns a Reading.
      # Raises InputError that names the field and a way to type it.
      def self.parse(text, unit:, field: "reading")
        new(text, unit, field).reading
      end

      def initialize(text, unit, field)
        @text = text.to_s.strip
        @unit = unit
        @field = field
        @rules = UNITS.fetch(unit)
      end

      # Returns a Reading. Raises InputError that says what would do.
      def reading
        refuse("a number, such as #{examples}") if @text.empty? || @text.length > 40
        return over_limit if @text.match?(OVER_LIMIT)

        in_range(number_and_suffix)
      end

      private

      def over_limit
        refuse("a number in #{@rules[:name]}; only a resistance can read over limit") unless @unit == "ohm"
        Reading.over_limit(@unit)
      end

      def number_and_suffix
        if (infix = INFIX.match(@text))
          digits = "#{infix[1]}.#{infix[3]}".to_f
          scale = infix[2] == "R" ? 1.0 : PREFIXES.fetch(infix[2])
          refuse_unless_unit(infix[4])
          return digits * scale
        end
        match = NUMBER.match(@text) or refuse("a number, such as #{examples}")
        number(match[1]) * scale_of(match[2].strip)
      end

      def number(digits)
        refuse("one decimal point or comma") if digits.match?(/\A[+-]?\d{1,3}[.,]\d{3}[.,]/) || digits.count(".,") > 1
        Float(digits.tr(",", ".").delete_suffix(".").sub(/\A([+-]?)\./, '\10.').sub(/\.([eE])/, '\1'))
      rescue ArgumentError
        refuse("a number, such as #{examples}")
      end

      def scale_of(suffix)
        prefix =
          PREFIXES
            .keys
            .sort_by { |key| -key.length }
            .find do |key|
              rest = suffix.delete_prefix(key)
              suffix.start_with?(key) && (rest.strip.empty? || unit_symbol?(rest.strip))
            end
        unless prefix
          refuse("a number in #{@rules[:name]} with k, M, m or nothing before the unit, such as #{examples}")
        end
        if @unit == "ohm" && prefix == "m" && !unit_symbol?(suffix.delete_prefix("m").strip)
          refuse(
            "M for mega or mohm for milliohm: a small m is not clear",
            fix: "Type #{@text.tr("m", "M")} or #{@text}ohm."
          )
        end
        PREFIXES.fetch(prefix)
      end

      def unit_symbol?(text)
        @rules[:symbols].include?(text)
      end

      def refuse_unless_unit(rest)
        refuse("the unit #{@rules[:name]}") unless rest.strip.empty? || unit_symbol?(rest.strip)
      end

      def in_range(value)
        range = @rules[:range]
        return Reading.new(value: value, unit: @unit) if value.finite? && range.cover?(value)

        refuse(
          "a value between #{SIFormat.call(range.begin, @unit)} and #{SIFormat.call(range.end, @unit)}",
          fix:
            if @unit == "ohm" && value.negative?
              "A negative ohm reading means voltage on the line: switch off and measure again."
            end
        )
      end

      def examples
        { "ohm" => "0.6, 1.1k, 3.3M or OL", "V" => "12.4 or 850m", "A" => "7m or 0.014" }.fetch(@unit)
      end

      def refuse(expected, fix: "Type it as the meter shows it.")
        raise InputError.new(field: @field, given: @text, expected: expected, fix: fix)
      end
    end
  end
end
