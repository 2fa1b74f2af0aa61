# frozen_string_literal: true

module Gadwall
  module Calculators
    # Wires, loads, resistances and buses (data/sums/electrics.yml).
    module ElectricSums
      COPPER = 0.00393 # of a degree; IEC 60028, from memory
      LAMP = 0.55 # current of a filament by voltage; handbook: lamp exponents, from memory
      COLD = 10.0 # common practice: a cold filament has a tenth of its hot resistance or less
      # Cold resistance of blade fuses in milliohms; common practice, from memory.
      FUSE_MOHM = { "5" => 15.3, "7.5" => 9.6, "10" => 7.2, "15" => 4.5, "20" => 3.2, "25" => 2.4, "30" => 1.8 }.freeze
      # [multiple of the rating, least seconds, most seconds]; ISO 8820-3, from memory, unsure per type.
      OPENING = [[1.35, 0.75, 600], [1.6, 0.25, 50], [2.0, 0.15, 5], [3.5, 0.04, 0.5]].freeze
      HOLDS = 1.1

      module_function

      # V; with watts lost.
      def voltage_drop(length:, section:, current:, temperature:)
        ohm = length * per_metre(section) * warm(temperature)
        Book.result(ohm * current, more: [["resistance", ohm, "ohm"], ["heat", ohm * current * current, "W"]])
      end

      # Smallest cross-section of the table, mm2.
      def wire_size(length:, current:, drop:, temperature:)
        drops = sizes.map { |size| [size, length * per_metre(size) * warm(temperature) * current] }
        size, lost = drops.find { |_, each| each <= drop }
        unless size
          most = drops.last.last.round(2)
          raise InputError.new(
                  field: "drop",
                  given: drop,
                  expected: "at least #{most} V: so much is lost in the largest wire of the table"
                )
        end
        Book.result(size, more: [["its drop", lost, "V"]])
      end

      # Ohm of bare copper a metre, by the table; between two sizes by their areas.
      def per_metre(section)
        Knowledge.catalogue.wire_ohm_per_m(section)
      rescue UnknownNameError
        below = sizes.reverse.find { |size| size <= section }
        above = sizes.find { |size| size >= section }
        low, high = [below, above].map { |size| Knowledge.catalogue.wire_ohm_per_m(size) * size }
        share = (section - below) / (above - below)
        (low + ((high - low) * share)) / section
      end

      def sizes
        Knowledge.catalogue.failure_modes("wire").map { |row| row["id"].to_f }.sort
      end

      def warm(temperature)
        1 + (COPPER * (temperature - 20))
      end

      # Ohm; with the heat in it.
      def joint_resistance(drop:, current:)
        Book.result(drop / current, more: [["heat in it", drop * current, "W"]])
      end

      # A of the hot bulb; with its resistances.
      def bulb_load(power:, rated:, volt:)
        return Book.result(0.0, more: [["hot", rated * rated / power, "ohm"]]) if volt.zero?

        ampere = power / rated * ((volt / rated)**LAMP)
        hot = rated * rated / power
        Book.result(
          ampere,
          more: [["hot, rated", hot, "ohm"], ["cold, at most", hot / COLD, "ohm"], ["power then", ampere * volt, "W"]]
        )
      end

      # In words.
      def fuse_time(rating:, current:)
        multiple = current / rating
        times = [["of its rating", multiple, "x"]]
        return Book.result("holds", more: times) if multiple <= HOLDS

        row = OPENING.reverse.find { |from, _, _| multiple >= from }
        return Book.result("holds for hours, then opens", more: times) unless row

        Book.result("opens in #{plain(row[1])} to #{plain(row[2])} s", more: times)
      end

      def plain(number)
        number.to_s.delete_suffix(".0")
      end

      # A.
      def fuse_current(drop:, rating:)
        mohm = FUSE_MOHM.fetch(rating)
        Book.result(drop / mohm, more: [["fuse, cold", mohm, "mohm"]])
      end

      # Ohm.
      def parallel(ohms:)
        values = Book.numbers("ohms", ohms)
        return Book.result(0.0) if values.any?(&:zero?)

        Book.result(1.0 / values.sum { |ohm| 1.0 / ohm }, more: [["how many", values.size, ""]])
      end

      # Ohm.
      def series(ohms:)
        values = Book.numbers("ohms", ohms)
        Book.result(values.sum, more: [["how many", values.size, ""]])
      end

      # V as the meter shows it; without the meter.
      def divider(volt:, upper:, lower:, meter:)
        loaded = 1 / ((1 / lower) + (1 / (meter * 1e6)))
        Book.result(
          volt * loaded / (upper + loaded),
          more: [["without the meter", volt * lower / (upper + lower), "V"]]
        )
      end

      # Ohm.
      def bus_resistance(ends:, end_ohm:, nodes:, node_ohm:, corrosion:)
        count = ends.to_i
        siemens = nodes / node_ohm
        siemens += (count - 1) / end_ohm if count > 1
        siemens += 1 / (end_ohm + corrosion) if count.positive?
        return Book.result("OL", more: [["nothing on it", "", ""]]) if siemens.zero?

        Book.result(1 / siemens, more: [["two sound ends", end_ohm / 2, "ohm"]])
      end

      # V of the high wire; with the low one.
      def bus_levels(dominant:)
        share = dominant / 100.0
        Book.result(2.5 + share, more: [["CAN low", 2.5 - share, "V"], ["sum", 5.0, "V"]])
      end

      # A; with what each part gets.
      def supply_path(volt:, path:, joint:, load:)
        ampere = volt / (path + joint + load)
        Book.result(
          ampere,
          more: [["at the load", ampere * load, "V"], ["lost in the connection", ampere * joint, "V"]]
        )
      end

      # bar.
      def sensor_pressure(volt:, supply:, range:)
        Book.result(((volt / supply) - 0.1) / 0.8 * range)
      end

      # mA.
      def sensor_shunt(volt:, shunt:)
        milli = volt / shunt * 1000
        level = { 7 => 5.9..8.4, 14 => 11.8..16.8, 28 => 24.0..33.0 }.find { |_, band| band.cover?(milli) }&.first
        Book.result(milli, more: [["level", level ? "#{level} mA" : "none of 7, 14, 28 mA", ""]])
      end
    end
  end
end
