# frozen_string_literal: true

module Gadwall
  module Quantity
    # What a hand-held meter can promise: ±(percent of reading + digits x resolution), an input resistance on volts,
    # a limit on ohms. The figures stand in data/meter.yml with their source.
    Meter =
      Struct.new(:unit, :percent, :digits, :resolutions, :limit, :input_resistance_ohm, :source, keyword_init: true) do
        # resolutions: [[up_to, step], ...] ascending, both in the bare unit. The last row serves all above.
        def resolution(value)
          (resolutions.find { |up_to, _| value.abs <= up_to } || resolutions.last).last
        end

        # Half-width of the error band at a shown value, in the bare unit. ISO/handbook form: percent of reading +
        # counts.
        def error_band(value)
          (value.abs * percent / 100.0) + (digits * resolution(value))
        end

        # Half-widths are stated as limits; a meter in trade use sits well inside them. Two sigma is common practice.
        def sigma(value)
          error_band(value) / 2.0
        end

        # The number on the display: rounded to the resolution, over limit as INFINITY.
        def shown(value)
          return Float::INFINITY if limit && value.abs > limit

          step = resolution(value)
          (value / step).round * step
        end
      end
  end
end
