# frozen_string_literal: true

module Gadwall
  module Pads
    # What a gauge read at the wheels. Millimetres as read; linings are readings less the backing plate. Frozen.
    class Sheet
      CORNERS = %w[front_left front_right rear_left rear_right].freeze
      PLACES = %w[inner outer].freeze
      BACKING = 5.0 # common practice: some 5 mm of backing plate; measure it
      DEFAULTS = { "backing" => BACKING, "new" => 12.0, "least" => 3.0 }.freeze # common practice
      RANGES = {
        "backing" => 0.0..15.0,
        "new" => 1.0..40.0,
        "least" => 0.0..15.0,
        "gauge" => 0.0..3.0,
        "distance" => 0.0..3_000_000.0
      }.freeze
      READING = 0.0..60.0
      DISC = { "thickness" => 1.0..80.0, "least" => 1.0..80.0, "variation" => 0.0..2.0, "runout" => 0.0..5.0 }.freeze
      GAUGE = 0.5 # common practice: a pad gauge is read to half a millimetre

      attr_reader :data

      # data: {"corners" => {corner => {"inner", "outer"}}, "front", "rear" => {"backing", "new", "least"}, "discs" =>
      # {corner => {"thickness", "least", "variation", "runout"}}, "distance" => km now, "gauge" => mm}; numbers.
      # Raises InputError that names the field.
      def initialize(data)
        @data = data
        check
        freeze
      end

      # What was typed, made numbers. typed: the same shape with texts; empty ones are left out. Returns [Sheet or nil,
      # {field => sentence}].
      def self.typed(typed)
        errors = {}
        data = numbers(typed, "", errors)
        return nil, errors if errors.any?

        [new(data), {}]
      rescue InputError => error
        [nil, { error.field => error.message }]
      end

      def self.numbers(given, path, errors)
        given.each_with_object({}) do |(name, value), kept|
          field = [path, name].reject(&:empty?).join(".")
          if value.is_a?(Hash)
            inner = numbers(value, field, errors)
            kept[name] = inner unless inner.empty?
          elsif !value.to_s.strip.empty?
            number = Quantity::Decimal.read(value)
            error = InputError.new(field: field, given: value, expected: "a number")
            number ? kept[name] = number : errors[field] = error.message
          end
        end
      end
      private_class_method :numbers

      # Lining in mm, or nil where nobody measured. corner, place: ids.
      def lining(corner, place)
        read = data.dig("corners", corner, place) or return
        (read - axle(corner, "backing")).round(2)
      end

      # The thinnest lining of a corner, or nil.
      def least_lining(corner)
        PLACES.filter_map { |place| lining(corner, place) }.min
      end

      # Figure of the axle of a corner. name: "backing", "new" or "least".
      def axle(corner, name)
        data.dig(Sheet.axle_of(corner), name) || DEFAULTS.fetch(name)
      end

      # "front" or "rear".
      def self.axle_of(corner)
        corner.split("_").first
      end

      # Figures of a disc; {} where nobody measured.
      def disc(corner)
        data.dig("discs", corner) || {}
      end

      # Kilometres on the clock, or nil.
      def distance
        data["distance"]
      end

      # How far a reading may be off, mm.
      def gauge
        data["gauge"] || GAUGE
      end

      # Corners that were measured.
      def corners
        CORNERS.select { |corner| least_lining(corner) }
      end

      private

      def check
        raise InputError.new(field: "corners", given: "", expected: "one reading at least") if read.empty?

        read.each { |field, value| within!(field, value, READING) }
        %w[front rear].each do |axle|
          (data[axle] || {}).each { |name, value| within!("#{axle}.#{name}", value, RANGES.fetch(name, READING)) }
        end
        %w[distance gauge].each { |name| within!(name, data[name], RANGES.fetch(name)) if data[name] }
        (data["discs"] || {}).each do |corner, disc|
          disc.each { |name, value| within!("discs.#{corner}.#{name}", value, DISC.fetch(name, READING)) }
        end
        thin = corners.find { |corner| least_lining(corner).negative? }
        return unless thin

        raise InputError.new(
                field: "corners.#{thin}.#{PLACES.min_by { |place| lining(thin, place) || 99 }}",
                given: data.dig("corners", thin).values.min,
                expected: "no less than the backing plate of #{axle(thin, "backing")} mm"
              )
      end

      # [[field, value], ...] of what a gauge read.
      def read
        (data["corners"] || {}).flat_map do |corner, row|
          row.slice(*PLACES).map { |place, value| ["corners.#{corner}.#{place}", value] }
        end
      end

      def within!(field, value, range)
        return if value.is_a?(Numeric) && range.cover?(value)

        raise InputError.new(field: field, given: value, expected: "a number from #{range.first} to #{range.last}")
      end
    end
  end
end
