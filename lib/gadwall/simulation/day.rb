# frozen_string_literal: true

module Gadwall
  module Simulation
    # The component values of one vehicle on one day: each drawn within its tolerance (one sigma, cut at two), so that
    # no two vehicles of a sheet measure alike.
    module Day
      CUT = 2.0
      # Circuits whose levels are made by one transceiver: drawn one by one they would be no bus any more.
      LEVELS = %w[can_bus single_wire_bus trailer_bus].freeze

      # sheet: Hash of a vehicle sheet; random: Random. Returns another Hash with values of its own where the sheet
      # states none.
      def self.drawn(sheet, random)
        circuits =
          templates(sheet).to_h do |id, template|
            given = sheet.dig("circuits", id) || {}
            [id, given.merge("values" => values(template, random).merge(given["values"] || {}))]
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

      def self.values(template, random)
        return {} if LEVELS.include?(template["family"]) || LEVELS.include?(template["id"])

        template["values"]
          .filter_map do |name, record|
            next unless record["value"].is_a?(Numeric) && record["tolerance"]

            spread = Sums::Normal.draw(random).clamp(-CUT, CUT) * record["tolerance"]
            [name, (record["value"] * (1 + spread)).round(6)]
          end
          .to_h
      end

      private_class_method :templates, :values
    end
  end
end
