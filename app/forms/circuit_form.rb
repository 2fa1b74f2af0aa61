# frozen_string_literal: true

module Web
  module Forms
    # One circuit of a vehicle sheet as it is typed: connectors, leads, colours, pins, figures. Keeps what was typed,
    # gathers the errors by field ("joints.1.minutes"), and yields the adaptation that the sheet keeps.
    class CircuitForm
      MOST_CONNECTORS = 14
      OPERATIONS = /\A(add|remove|up|down):(\d{1,2})\z/
      NEW_SECTION = { "length_m" => "1", "cross_section_mm2" => "0.5" }.freeze

      attr_reader :connectors, :sections, :wires, :values, :errors

      # The form of a circuit as it stands. harness: Gadwall::Circuits::Harness; adaptation: of the sheet, {} for the
      # template's own.
      def self.of(harness, adaptation)
        connectors =
          harness.connectors.map do |connector|
            connector.to_h.transform_keys(&:to_s).merge("minutes" => connector.minutes.to_s)
          end
        sections =
          harness.sections.map do |each|
            {
              "length_m" => each.length_m.to_s,
              "cross_section_mm2" => size_of(harness, each, adaptation).to_s,
              "flexes" => each.flexes,
              "needs" => each.needs
            }
          end
        wires = harness.wires.to_h { |wire| [wire.id, { "colour" => wire.colour }] }
        values =
          (adaptation["values"] || {}).transform_values do |value|
            value.is_a?(Hash) ? value.transform_values(&:to_s) : { "value" => value.to_s }
          end
        new(harness.template, "joints" => connectors, "sections" => sections, "wires" => wires, "values" => values)
      end

      def self.size_of(harness, section, adaptation)
        (adaptation["sections"] || harness.template["sections"])[harness.sections.index(section)]["cross_section_mm2"]
      end
      private_class_method :size_of

      # template: of data/circuits; params: as posted, lists as Arrays or as Hashes by number.
      def initialize(template, params)
        @template = template
        @connectors = list(params["joints"])
        @sections = list(params["sections"])
        @wires = hash(params["wires"]).transform_values { |wire| hash(wire) }
        @values = hash(params["values"]).transform_values { |value| hash(value) }
        @errors = {}
      end

      # Adds, removes or moves a connector. operation: "add:1" (after connector 1), "remove:2", "up:2", "down:1"; others
      # do nothing.
      def apply(operation)
        name, at = OPERATIONS.match(operation.to_s)&.captures
        index = at.to_i
        return unless name && index < connectors.size

        case name
        when "add"
          add(index)
        when "remove"
          remove(index)
        when "up"
          swap(index - 1) if index.positive?
        when "down"
          swap(index) if index < connectors.size - 1
        end
      end

      # The adaptation as on the sheet. Fills `errors`.
      def adaptation
        @new_ids = []
        {
          "joints" => connectors.each_with_index.map { |connector, i| connector_from(connector, i) },
          "sections" => sections.each_with_index.map { |section, i| section_from(section, i) },
          "wires" => wires.transform_values { |wire| { "colour" => wire["colour"].to_s.strip[0, 40] } },
          "values" => values_from
        }.reject { |_, part| part.empty? }
      end

      private

      def list(given)
        rows = given.is_a?(Hash) ? given.sort_by { |key, _| key.to_i }.map(&:last) : Array(given)
        rows.first(MOST_CONNECTORS).map { |row| hash(row) }
      end

      def hash(given)
        given.is_a?(Hash) ? given.to_h : {}
      end

      def add(index)
        return errors["joints"] = "#{MOST_CONNECTORS} connectors; more cannot be drawn." if connectors.size >=
          MOST_CONNECTORS

        connectors.insert(index + 1, { "name" => "connector #{connectors.size + 1}", "minutes" => "4", "pins" => {} })
        sections.insert([index, sections.size].min, NEW_SECTION.dup)
      end

      def remove(index)
        return errors["joints"] = "#{connectors[index]["name"]} holds a part of this circuit and stays." if (
          @template["keep"] || []
        ).include?(connectors[index]["id"]) || connectors.size < 2

        connectors.delete_at(index)
        sections.delete_at([index, sections.size - 1].min)
      end

      def swap(index)
        connectors[index], connectors[index + 1] = connectors[index + 1], connectors[index]
      end

      def connector_from(connector, index)
        name = connector["name"].to_s.strip[0, 60]
        errors["joints.#{index}.name"] = "Enter what the connector is called, such as 'sill connector'." if name.empty?
        made = {
          "id" => id_of(connector, name),
          "name" => name,
          "minutes" => number(connector["minutes"], "joints.#{index}.minutes", 0, 240, "minutes to reach it"),
          "exposed" => ticked?(connector["exposed"]),
          "needs" => ("wheel_off" if ticked?(connector["needs"]) || connector["needs"] == "wheel_off"),
          "pins" => hash(connector["pins"]).transform_values { |pin| pin.to_s.strip[0, 12] }
        }
        made["needs"] = connector["needs"] if %w[relay_out board_off].include?(connector["needs"])
        %w[with module].each { |key| made[key] = connector[key].to_s.strip unless connector[key].to_s.strip.empty? }
        made["kind"] = connector["kind"] if Gadwall::Circuits::Harness::KINDS.include?(connector["kind"])
        made["wires"] = connector["wires"].to_s.split(",") unless connector["wires"].to_s.empty?
        made["passes"] = true if ticked?(connector["passes"])
        made.compact
      end

      # A connector keeps its id, since tests are named by it; a new one gets its name's when it is kept.
      def id_of(connector, name)
        given = connector["id"].to_s
        return given if given.match?(/\A[a-z][a-z0-9_]*\z/)

        base = name.downcase.gsub(/[^a-z0-9]+/, "_").sub(/\A[^a-z]+/, "").chomp("_")
        base = "connector" if base.empty?
        taken = connectors.map { |other| other["id"].to_s } + @new_ids
        ([base] + (2..99).map { |n| "#{base}_#{n}" }).find { |id| !taken.include?(id) }.tap { |id| @new_ids << id }
      end

      def section_from(section, index)
        {
          "length_m" => number(section["length_m"], "sections.#{index}.length_m", 0.01, 60, "metres"),
          "cross_section_mm2" => size(section["cross_section_mm2"], index),
          "flexes" => ticked?(section["flexes"]),
          "needs" => ("wheel_off" if ticked?(section["needs"]) || section["needs"] == "wheel_off")
        }.compact
      end

      def size(given, index)
        value = Gadwall::Quantity::Decimal.read(given)
        Gadwall::Knowledge.catalogue.wire_ohm_per_m(value.to_f)
        value
      rescue Gadwall::UnknownNameError => error
        errors["sections.#{index}.cross_section_mm2"] = error.message
        given
      end

      def values_from
        values.each_with_object({}) do |(name, value), kept|
          next if value["value"].to_s.strip.empty? || !@template["values"].key?(name)

          figure = { "value" => number(value["value"], "values.#{name}", 1e-6, 1e9, @template["values"][name]["unit"]) }
          unless value["tolerance"].to_s.strip.empty?
            figure["tolerance"] = number(value["tolerance"], "values.#{name}", 0.001, 1, "share, such as 0.05")
          end
          kept[name] = figure
        end
      end

      def number(given, field, low, high, unit)
        value = Gadwall::Quantity::Decimal.read(given)
        return value == value.to_i ? value.to_i : value if value&.between?(low, high)

        errors[field] = "'#{given.to_s[0, 20]}' is not valid. Enter a number from #{low} to #{high} (#{unit})."
        given
      end

      def ticked?(given)
        [true, "1", "on", "true"].include?(given)
      end
    end
  end
end
