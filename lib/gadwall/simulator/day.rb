# frozen_string_literal: true

module Gadwall
  module Simulator
    # The component values of one vehicle on one day: each drawn within its tolerance (one sigma, cut at 1.3), so that
    # no two vehicles of a sheet measure alike.
    module Day
      CUT = 1.3
      WIDEST = 0.2 # demo: what differs more than this is how hard a foot presses, not how parts are made
      # Circuits whose levels are made by one transceiver: drawn one by one they would be no bus any more.
      LEVELS = %w[can_bus single_wire_bus trailer_bus].freeze
      # What a DC meter sees of a CAN pair is an average: drivers of some 30 ohm that conduct three tenths of the time
      # are 100 ohm all the time (ISO 11898-2, from memory), so a line to ground takes its neighbour near zero with it.
      AVERAGE_PAIR = { "busy_h_volt" => 3.8, "busy_l_volt" => 1.2, "busy_ohm" => 100 }.freeze

      # sheet: Hash of a vehicle sheet; random: Random. Returns another Hash with values of its own where the sheet
      # states none.
      def self.drawn(sheet, random)
        circuits =
          templates(sheet).to_h do |id, template|
            given = sheet.dig("circuits", id) || {}
            own = values(template, random, heavy?(sheet) ? template["at_24_volt"] || {} : {})
            [id, given.merge("values" => own.merge(given["values"] || {}))]
          end
        sheet.merge("circuits" => circuits)
      end

      # {circuit id => record of data/circuits}.
      def self.templates(sheet)
        catalogue = Knowledge.catalogue
        known = Gadwall::Vehicle::Sheet.new(sheet)
        corners = known.sensors.transform_values { |kind| "wheel_speed_#{kind}" }
        fitted = known.fitted(catalogue).to_h { |row| [row["id"], row["template"]] }
        corners.merge(fitted).transform_values { |name| catalogue.circuits.fetch(name) }
      end

      # Is its system of 24 V?
      def self.heavy?(sheet)
        Gadwall::Vehicle::Sheet.new(sheet).system_voltage.to_s == "24"
      end

      # at_24_volt: values that stand in place of the template's own.
      def self.values(template, random, at_24_volt)
        return AVERAGE_PAIR if template["id"] == "can_bus"
        return {} if LEVELS.include?(template["family"]) || LEVELS.include?(template["id"])

        template["values"]
          .filter_map do |name, record|
            next unless record["value"].is_a?(Numeric) && record["tolerance"]

            spread = Quantity::Normal.draw(random).clamp(-CUT, CUT) * [record["tolerance"], WIDEST].min
            [name, ((at_24_volt[name] || record["value"]) * (1 + spread)).round(6)]
          end
          .to_h
      end

      private_class_method :templates, :values, :heavy?
    end
  end
end
