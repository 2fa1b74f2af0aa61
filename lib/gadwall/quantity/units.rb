# frozen_string_literal: true

module Gadwall
  module Quantity
    # Units that a shop may like better than those of the record, which keeps SI: pressures, torques, speeds, lengths,
    # cross-sections, temperatures, volumes. Factors are exact where their definitions are (1 in 25.4 mm, 1 mile
    # 1.609344 km, 1 lbf 4.4482216152605 N; AWG by ASTM B258, from memory).
    module Units
      # unit => [what it measures, factor to the first unit of its kind, offset].
      TABLE = {
        "bar" => [:pressure, 1.0],
        "psi" => [:pressure, 0.0689475729],
        "kPa" => [:pressure, 0.01],
        "N m" => [:torque, 1.0],
        "lbf ft" => [:torque, 1.3558179483314004],
        "km/h" => [:speed, 1.0],
        "mph" => [:speed, 1.609344],
        "mm" => [:length, 1.0],
        "in" => [:length, 25.4],
        "L" => [:volume, 1.0],
        "pt" => [:volume, 0.56826125],
        "degC" => [:temperature, 1.0, 0.0],
        "degF" => [:temperature, 5.0 / 9, -32.0],
        "mm2" => [:section, 1.0],
        "AWG" => [:section, nil]
      }.freeze
      # What a shop chooses among, the record's own first.
      CHOICES = {
        "pressure" => %w[bar psi kPa],
        "torque" => ["N m", "lbf ft"],
        "speed" => %w[km/h mph],
        "length" => %w[mm in],
        "section" => %w[mm2 AWG]
      }.freeze

      # value in unit `from` as one in unit `to`. Raises InputError for units that do not measure the same.
      def self.convert(value, from, to)
        kind, factor, offset = entry(from)
        other, divisor, back = entry(to)
        unless kind == other
          raise InputError.new(field: "to", given: to, expected: "a unit of #{kind}, as #{from} is one")
        end
        return section(value, from, to) if kind == :section

        ((value + offset.to_f) * factor / divisor) - back.to_f
      end

      # Does the table know it?
      def self.known?(unit)
        TABLE.key?(unit)
      end

      def self.entry(unit)
        TABLE[unit] or raise UnknownNameError.new(field: "unit", given: unit, known: TABLE.keys)
      end

      # AWG number from mm2 and back (ASTM B258: d = 0.127 mm x 92^((36 - n) / 39)).
      def self.section(value, from, to)
        return value if from == to
        return Math::PI * ((0.127 * (92**((36 - value) / 39.0)))**2) / 4 if from == "AWG"

        raise InputError.new(field: "value", given: value, expected: "a cross-section above 0") unless value.positive?

        36 - (39 * Math.log(Math.sqrt(4 * value / Math::PI) / 0.127, 92))
      end
      private_class_method :entry, :section
    end
  end
end
