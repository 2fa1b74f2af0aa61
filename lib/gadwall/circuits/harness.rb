# frozen_string_literal: true

module Gadwall
  module Circuits
    # One circuit as a hand would follow it: head (module), connectors and sections in turn, tail (sensor), with every
    # wire through every connector. Made from a template record and what the vehicle sheet says differently.
    #
    # Builds the network of any state of the vehicle: which connectors are disconnected, key on or off, wheel spinning,
    # bulb fitted.
    class Harness
      include HarnessParts

      # disconnected: ids of connectors; settings: what else is set, {"key" => "on", "pedal" => "pressed"}. What is at
      # rest is not listed.
      State =
        Struct.new(:disconnected, :settings) do
          # settings: name => value; what equals the vehicle at rest is left out. Returns a frozen State.
          def self.of(disconnected: [], **settings)
            set = settings.transform_keys(&:to_s).reject { |name, value| value == AT_REST.fetch(name, false) }
            new(disconnected.sort.freeze, set.freeze).freeze
          end

          # The value of a setting, that of the vehicle at rest where nothing was set.
          def [](name)
            settings.fetch(name) { AT_REST.fetch(name, false) }
          end

          # "on" or "off".
          def key
            self["key"]
          end

          # Revolutions per second of the wheel, or nil.
          def spin
            self["spin"]
          end

          # This state with some settings held by force: a contact that sticks, a relay that does not pull.
          def with(forced)
            if forced.empty?
              self
            else
              State.of(disconnected: disconnected, **settings.merge(forced).transform_keys(&:to_sym))
            end
          end
        end
      # How a vehicle stands when nobody does anything to it.
      AT_REST = {
        "key" => "off",
        "pedal" => "released",
        "level" => "full",
        "switch" => "released",
        "command" => "none",
        "pump" => "stopped",
        "bus" => "asleep",
        "charge" => "charged"
      }.freeze

      GIVEN_TOLERANCE = 0.08 # common practice: parts of one number agree within some 10 percent

      # ground_point: name of the point where its ground is bolted to the body ("G2"), or nil.
      attr_reader :template, :wires, :connectors, :sections, :values, :ground_point

      # template: a record of data/circuits; adaptation: a Hash as on the vehicle sheet (connectors, wires, sections,
      # values), keys as Strings; catalogue: for wire sizes. Raises InputError for an adaptation that does not fit.
      def initialize(template, adaptation, catalogue)
        @template = template
        @catalogue = catalogue
        @nodes = {}
        @ground_point = adaptation["ground_point"] || template["ground_point"]
        @wires = wires_from(adaptation)
        @connectors = connectors_from(adaptation)
        @sections = sections_from(adaptation)
        @given =
          (adaptation["values"] || {}).transform_values { |value| value.is_a?(Hash) ? value : { "value" => value } }
        check_values
        @adapted = adaptation["system_voltage"].to_s == "24" && template.key?("at_24_volt")
        at_24_volt = @adapted ? template["at_24_volt"] : {}
        @values =
          template["values"].to_h do |name, value|
            [name, (@given.dig(name, "value") || at_24_volt[name] || value["value"]).to_f]
          end
      end

      # How many times 12 V its battery has: 1 or 2.
      def battery_factor
        @adapted || template["nominal_volt"] == 24 ? 2 : 1
      end

      # By what a limit of its template or tests is to be multiplied; absolute: it does not follow the battery.
      def limit_factor(absolute: false)
        @adapted && !absolute ? 2 : 1
      end

      # What it can bear in place of a part, in words, or nil.
      def load
        (@adapted && template["load_24"]) || template["load"]
      end

      # The same harness with some values otherwise. values: {name => number}; tolerance: one sigma, relative, of each.
      def with_values(values, tolerance)
        given = values.transform_values { |value| { "value" => value, "tolerance" => tolerance } }
        dup.tap do |copy|
          copy.instance_variable_set(:@given, @given.merge(given))
          copy.instance_variable_set(:@values, @values.merge(values.transform_values(&:to_f)))
        end
      end

      # Does the sheet state this value? name: of the template's values.
      def given?(name)
        @given.key?(name)
      end

      # Id of the template.
      def id
        template["id"]
      end

      # One sigma, relative, of a value: the trade's spread, or a maker's where the sheet gives the figure itself.
      def tolerance(name)
        return @given[name].fetch("tolerance", GIVEN_TOLERANCE) if @given[name]

        template["values"].fetch(name).fetch("tolerance", 0.0)
      end

      # id: text. Returns a Connector. Raises UnknownNameError.
      def connector(id)
        connectors.find { |connector| connector.id == id } or
          raise UnknownNameError.new(field: "connector", given: id, known: connectors.map(&:id))
      end

      # id: text. Returns a Wire, or nil.
      def wire(id)
        wires.find { |wire| wire.id == id }
      end

      # Places in the order of the hand: head, connector, section, connector, ... tail, and the ring where there is one.
      def places
        between = connectors.each_with_index.flat_map { |connector, i| [connector.id, sections[i]&.id] }.compact
        [
          template["near_end"]["id"],
          *between,
          template["far_end"]["id"],
          *extras.map { |extra| extra["id"] },
          *modules.map(&:first)
        ].uniq
      end

      # Who hangs on a bus: [[module id, Connector], ...]; [] for other harnesses.
      def modules
        @modules ||= connectors.filter_map { |connector| [connector.module, connector] if connector.module }.freeze
      end

      # A module in words. id: of data/vehicle/modules.yml.
      def module_name(id)
        @catalogue.modules.fetch(id, { "name" => "#{id.tr("_", " ")} module" })["name"]
      end

      # Parts beside the harness that can be at fault: a tone ring, a float, a relay. [{"id", "name"}, ...].
      def extras
        @extras ||=
          (template["extras"] || [])
            .map { |extra| extra.merge("name" => extra["name"].gsub("{ground_point}", ground_point.to_s)) }
            .freeze
      end

      # Does a tone ring belong to it?
      def ring?
        extras.any? { |extra| extra["id"] == "ring" }
      end

      # A place in words: "harness, module connector to body connector", "tone ring".
      def place_name(id)
        end_or_extra = [template["near_end"], template["far_end"], *extras].find { |part| part["id"] == id }
        return end_or_extra["name"] if end_or_extra

        connector = connectors.find { |each| each.id == id } and return connector.name
        section = sections.find { |each| each.id == id } and
          return "harness, #{section.from.name} to #{section.to.name}"
        return module_name(id) if modules.any? { |name, _| name == id }

        id.tr("_", " ")
      end

      # The template's element of this id. Raises KeyError.
      def element(id)
        template["elements"].find { |element| element["id"] == id } or
          raise KeyError, "#{template["id"]}: no element #{id}"
      end

      # The network of a state, whole, for a solver or a drawing. levels: ampere of a sink, where the harness has one.
      def network(state, sink_ampere: 0.0)
        HarnessNetwork.new(self, @catalogue).build(state, sink_ampere: sink_ampere)
      end

      # The Network::Sink of its sensor, or nil where it has none.
      def sink
        return @sink if defined?(@sink)

        @sink = template["elements"].find { |element| element["kind"] == "sink" }
      end

      # Amperes of the sink's levels: [0.007, 0.014], or [] for a harness without one.
      def sink_levels
        sink ? sink["levels"].map { |name| values.fetch(name) } : []
      end

      # The node of template notation. signal@near_end is the module's own pin (head side of the first connector),
      # signal@harness_start where the harness begins (its other side), signal@harness_end where it ends (head side of
      # the last connector), signal@far_end the part's pin.
      def node(name)
        @nodes[name] ||= full_node(name)
      end

      # Short: an error message must not print the whole harness.
      def inspect
        "#<#{self.class} #{id}>"
      end

      private

      def full_node(name)
        wire, place = name.split("@")
        case place
        when "near_end"
          "#{wire}@#{connectors.first.id}.near"
        when "harness_start"
          "#{wire}@#{connectors.first.id}.far"
        when "harness_end"
          "#{wire}@#{connectors.last.id}.near"
        when "far_end"
          "#{wire}@#{connectors.last.id}.far"
        else
          name
        end
      end

      def check_values
        unknown = @given.keys - template["values"].keys
        if unknown.any?
          raise UnknownNameError.new(field: "values", given: unknown.first, known: template["values"].keys)
        end

        @given.each do |name, value|
          next if value["value"].is_a?(Numeric) && value["value"].positive?

          raise InputError.new(
                  field: "values.#{name}",
                  given: value["value"],
                  expected: "a number above 0 in #{template["values"][name]["unit"]}"
                )
        end
      end

      def wires_from(adaptation)
        given = adaptation["wires"] || {}
        template["wires"].map do |wire|
          Wire.new(
            id: wire["id"],
            name: wire["name"],
            colour: given.dig(wire["id"], "colour") || wire["colour"],
            starts_at: wire["starts_at"]&.gsub("{ground_point}", ground_point.to_s)
          ).freeze
        end
      end

      def connectors_from(adaptation)
        (adaptation["joints"] || template["joints"])
          .map do |connector|
            Connector.new(
              id: connector["id"],
              name: connector["name"] || connector["id"].tr("_", " "),
              minutes: connector.fetch("minutes", 4),
              needs: connector["needs"],
              exposed: connector["exposed"] || false,
              pins: connector["pins"] || {},
              with: connector["with"],
              module: connector["module"],
              passes: connector["passes"] || false,
              kind: connector["kind"] || usual(connector)["kind"] || "plug",
              wires: connector["wires"] || usual(connector)["wires"] || template["wires"].map { |wire| wire["id"] }
            ).freeze
          end
          .tap { |connectors| check_connectors(connectors) }
      end

      # What the template says of a connector that a sheet names with the same id.
      def usual(connector)
        template["joints"].find { |each| each["id"] == connector["id"] } || {}
      end

      # Wires that run between two connectors of the template; all, where it has others.
      def usual_wires(from, to)
        ids = template["joints"].map { |each| each["id"] }
        i = ids.each_cons(2).to_a.index([from.id, to.id])
        (i && template["sections"][i]["wires"]) || template["wires"].map { |wire| wire["id"] }
      end

      # connectors: Array of Hash as on a sheet. Raises InputError for an id that stands twice.
      def check_connectors(connectors)
        repeated = connectors.map(&:id).tally.find { |_, count| count > 1 }&.first
        if repeated
          raise InputError.new(
                  field: "joints",
                  given: repeated,
                  expected: "each connector named once",
                  fix: "Give the second one another id."
                )
        end

        missing = (template["keep"] || []) - connectors.map(&:id)
        return if missing.empty?

        raise InputError.new(
                field: "joints",
                given: connectors.map(&:id).join(", "),
                expected: "the connector #{missing.first}, which holds a part of this circuit",
                fix: "Keep it, under any name you like, with this id."
              )
      end

      # Sections as the sheet or the template has them: Array of Section. Raises InputError.
      def sections_from(adaptation)
        given = adaptation["sections"] || template["sections"]
        if given.size != [connectors.size - 1, 0].max
          raise InputError.new(
                  field: "sections",
                  given: given.size,
                  expected: "#{connectors.size - 1} sections for #{connectors.size} connectors",
                  fix: "Name one section between each connector and the next."
                )
        end
        given.each_with_index.map { |section, i| section_between(section, connectors[i], connectors[i + 1]) }
      end

      # section: Hash with length in m and cross-section in mm2. Returns a Section with its ohms.
      def section_between(section, from, to)
        length = section["length_m"]
        Section.new(
          id: "#{from.id}_to_#{to.id}",
          from: from,
          to: to,
          ohm: length * @catalogue.wire_ohm_per_m(section["cross_section_mm2"]),
          ohms: (section["wire_mm2"] || {}).transform_values { |size| length * @catalogue.wire_ohm_per_m(size) }.freeze,
          length_m: section["length_m"],
          flexes: section["flexes"] || false,
          needs: section["needs"],
          wires: section["wires"] || usual_wires(from, to)
        ).freeze
      end
    end
  end
end
