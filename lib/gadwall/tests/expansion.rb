# frozen_string_literal: true

module Gadwall
  module Tests
    # Turns the test records of data/tests into the tests of one harness: one for each connector, pair of connectors,
    # section or wire that a record asks for, with names and pins of this vehicle filled in.
    class Expansion
      # harness: Circuits::Harness. Returns its tests: Array of Test, one for each place that a record names.
      def self.tests(harness, catalogue)
        new(harness, catalogue).tests
      end

      def initialize(harness, catalogue)
        @harness = harness
        @catalogue = catalogue
        @scopes = Scopes.new(harness)
        @caution_rules = CautionRules.new(harness, catalogue)
      end

      # As Expansion.tests.
      def tests
        @catalogue.tests(@harness.template).flat_map { |record| spread(record) }
      end

      private

      def spread(record)
        @scopes.of(record).map { |scope| build(record, scope) }
      end

      def build(record, scope)
        words = words_for(scope)
        access, closes = access_for(record, scope)
        Test.new(
          id: id_for(record, scope),
          title: fill(record["title"], words, scope),
          kind: record["kind"],
          state: state_for(record["state"] || {}, scope),
          probes: (record["probes"] || []).map { |probe| fill(probe, words, scope) },
          where: fill(record["where"], words, scope),
          access: access,
          closes: closes,
          minutes: record["minutes"],
          invasive: record["invasive"] || 0,
          cautions: cautions_for(record, access),
          load: @harness.load,
          place: record["place"] && fill(record["place"], words, scope),
          outcomes: record["outcomes"],
          record: fill_rows(record, words, scope),
          source: record["source"]
        ).freeze
      end

      def id_for(record, scope)
        place =
          scope[:module] || scope[:section]&.id ||
            (scope[:from] ? "#{scope[:from].id}-#{scope[:to].id}" : scope[:connector]&.id)
        [record["id"], scope[:wire]&.id, place].compact.join(".")
      end

      def words_for(scope)
        first = @harness.connectors.first
        last = @harness.connectors.last
        {
          "connector" => scope[:connector]&.name,
          "connector_id" => scope[:connector]&.id,
          "from" => scope[:from]&.name,
          "from_id" => scope[:from]&.id,
          "to" => scope[:to]&.name,
          "to_id" => scope[:to]&.id,
          "wire" => scope[:wire]&.name,
          "wire_id" => scope[:wire]&.id,
          "beside" => scope[:beside]&.name,
          "beside_id" => scope[:beside]&.id,
          "pin_beside" => pin(scope[:connector], scope[:beside]),
          "module" => scope[:module] && @harness.module_name(scope[:module]),
          "module_id" => scope[:module],
          "module_node" => module_node(scope),
          "section_id" => scope[:section]&.id,
          "first_connector" => first&.name,
          "last_connector" => last&.name,
          "last_id" => last&.id,
          "load" => @harness.load,
          "pin_wire_first" => pin(first, scope[:wire]),
          "ground_point" => (@harness.place_name("ground_point") if extra?("ground_point")),
          "near_end" => @harness.template["near_end"]["name"],
          "near_end_id" => @harness.template["near_end"]["id"],
          "far_end_id" => @harness.template["far_end"]["id"],
          "far_end" => @harness.template["far_end"]["name"],
          "first_pins" => @harness.wires.map { |wire| pin(first, wire) }.join(" and "),
          "first_return_pin" => pin(first, @harness.wire("return")),
          "from_spot" => spot(scope[:from], scope[:wire]),
          "pin_wire" => pin(scope[:connector], scope[:wire]),
          "pin_from" => pin(scope[:from], scope[:wire]),
          "pin_to" => pin(scope[:to], scope[:wire])
        }
      end

      # Where a module of a bus hangs on its connector: "steering_plug.far"; the head of the bus hangs on the near side.
      def module_node(scope)
        connector = scope[:module] && scope[:connector] or return
        "#{connector.id}.#{connector.id == @harness.connectors.first.id ? "near" : "far"}"
      end

      def extra?(id)
        @harness.extras.any? { |extra| extra["id"] == id }
      end

      # The pin of a wire in a connector; the wire's name where the sheet says no pin.
      def pin(connector, wire)
        connector && wire ? (connector.pins[wire.id] || "(#{wire.name})") : nil
      end

      # From the head to this one.
      def connectors_up_to(connector)
        @harness.connectors.first(@harness.connectors.index(connector) + 1)
      end

      # Where a wire can be met at the beginning of a section: a pin of the connector, or where it begins otherwise.
      def spot(connector, wire)
        return unless connector && wire

        met = connectors_up_to(connector).reverse.find { |each| each.carries?(wire) }
        met ? "pin #{pin(met, wire)} of the #{met.name}" : wire.starts_at
      end

      def pin_connector(name, scope)
        case name
        when nil
          scope[:connector]
        when "first"
          @harness.connectors.first
        when "last"
          @harness.connectors.last
        else
          @harness.connector(name)
        end
      end

      def fill(text, words, scope)
        text
          .gsub(/\{pin (\w+)(?: (\w+))?\}/) do
            pin(pin_connector(::Regexp.last_match(2), scope), @harness.wire(::Regexp.last_match(1)))
          end
          .gsub(/\{(\w+)\}/) { words[::Regexp.last_match(1)].to_s }
          .then { |filled| filled.sub(/\A\p{Ll}/, &:upcase).then { |sentence| text.include?(" ") ? sentence : filled } }
      end

      # Rows and rules of a look speak of this vehicle's places and nodes; so does what it leaves out.
      def fill_rows(record, words, scope)
        filled =
          record
            .slice("rows", "rules", "removes")
            .transform_values { |rows| rows.map { |row| fill_row(row, words, scope) } }
        filled["changes"] = fill(record["changes"], words, scope) if record["changes"]
        filled["without"] = record["without"].map { |place| fill(place, words, scope) } if record["without"]
        filled.empty? ? record : record.merge(filled)
      end

      def fill_row(row, words, scope)
        row.to_h do |key, value|
          case value
          when String
            [key, fill(value, words, scope)]
          when Array
            [key, value.map { |each| each.is_a?(String) ? fill(each, words, scope) : each }]
          else
            [key, value]
          end
        end
      end

      def state_for(spec, scope)
        last = @harness.connectors.last&.id
        disconnected =
          case spec["disconnected"]
          when "here"
            [scope[:connector].id]
          when "both"
            [scope[:from].id, scope[:to].id]
          when "plug_of_pair"
            [scope[:from], scope[:to]].reject(&:splice?).map(&:id)
          when "here_and_last"
            [scope[:connector].id, last].uniq
          when "ends"
            [@harness.connectors.first.id, last].uniq
          when "first"
            [@harness.connectors.first.id]
          when "last"
            [last]
          when Array
            spec["disconnected"]
          else
            []
          end
        Circuits::Harness::State.of(disconnected: disconnected, **spec.except("disconnected").transform_keys(&:to_sym))
      end

      # [[key, minutes], ...] to be paid, and the keys that the test closes.
      def access_for(record, scope)
        named = (record["access"] || []).flat_map { |word| reach(word, scope) }
        named += [scope[:from], scope[:to]].flat_map { |connector| reach_connector(connector) } if pair?(scope)
        rule = @catalogue.access["drive"]
        [named.uniq.freeze, (record["access"] || []).include?("drive") ? rule["closes"] : []]
      end

      # A section has ends, too, but is reached by itself.
      def pair?(scope)
        scope[:from] && !scope[:section]
      end

      def reach(word, scope)
        case word
        when "connector"
          reach_connector(scope[:connector])
        when "first_connector"
          reach_connector(@harness.connectors.first)
        when "last_connector", "sensor_plug", "module_plug"
          reach_connector(@harness.connectors.last)
        when "section"
          needs(scope[:section].needs)
        else
          needs(word)
        end
      end

      # A circuit without connectors (an accumulator) has none to be reached.
      def reach_connector(connector)
        return [] unless connector

        needs(connector.needs) + [[connector.with || "joint:#{connector.id}", connector.minutes]]
      end

      def needs(key)
        return [] unless key

        row = @catalogue.access.fetch(key)
        [[key, (row["minutes_24"] if @harness.battery_factor == 2) || row["minutes"]]]
      end

      def cautions_for(record, access)
        from_access = access.flat_map { |key, _| @catalogue.access.dig(key, "cautions") || [] }
        (from_access + (record["cautions"] || []) + @caution_rules.of(record, access.map(&:first))).uniq
      end
    end
  end
end
