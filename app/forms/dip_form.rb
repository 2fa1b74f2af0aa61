# frozen_string_literal: true

module Web
  module Forms
    # The figures of the low-speed model and a known speed, as typed; what is empty stays as the data has it.
    class DipForm
      # In the unit that is typed: figure => [label, unit, factor to the model's unit].
      FIGURES = {
        "window_s" => ["Controller computes every", "ms", 0.001],
        "slip_from" => ["Slip from", "%", 0.01],
        "slip_lasts_s" => ["Lasting", "ms", 0.001],
        "moving_km_h" => ["From a speed of", "km/h", 1.0]
      }.freeze

      CONTROLLER = ["Controller counts from, peak to peak", "mV", 0.001].freeze

      # A form with nothing typed: the figures of the data.
      def self.empty
        new(Input.new({}))
      end

      # input: Input.
      def initialize(input)
        @input = input
      end

      # {figure => value in the model's unit}. Raises Gadwall::InputError.
      def figures
        FIGURES
          .filter_map { |id, (label, unit, factor)| (typed = number(id, label, unit)) && [id, typed * factor] }
          .to_h
      end

      # Volts peak to peak from which a controller counts teeth, or nil. Raises Gadwall::InputError.
      def controller_volt
        label, unit, factor = CONTROLLER
        number("controller_volt", label, unit)&.*(factor)
      end

      # km/h, or nil. Raises Gadwall::InputError.
      def speed_km_h
        number("speed", "speed", "km/h")
      end

      # The speed as typed.
      def speed_text
        @input.text("speed")
      end

      private

      def number(id, label, unit)
        text = @input.text(id)
        return if text.empty?

        value = Gadwall::Quantity::Decimal.read(text)
        return value if value&.positive?

        raise Gadwall::InputError.new(
                field: label.downcase,
                given: @input.text(id),
                expected: "a number of #{unit} above 0"
              )
      end
    end
  end
end
