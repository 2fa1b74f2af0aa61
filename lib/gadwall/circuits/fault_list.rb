# frozen_string_literal: true

module Gadwall
  module Circuits
    # Every fault of a harness, from the failure-mode records that its template names.
    class FaultList
      # Returns an Array of Fault. catalogue: for data/parts.
      def self.for(harness, catalogue)
        new(harness, catalogue).faults
      end

      def initialize(harness, catalogue)
        @harness = harness
        @catalogue = catalogue
        @wiring = (harness.connectors + harness.sections).map(&:id)
      end

      # Every fault that the harness can have: Array of Fault. What the parts say of their failures tells how those of
      # one part compare; how the parts compare the template says in `shares`. So one more connector, or a wire with a
      # name, makes no sensor rarer.
      def faults
        all =
          @harness.template["faults"]
            .flat_map { |file| @catalogue.failure_modes(file) }
            .flat_map { |mode| spread(mode) }
        @harness.template["shares"] ? shared_out(all) : all
      end

      private

      # Each part's faults together at its share of the circuit's rate.
      def shared_out(faults)
        given = @harness.template["shares"].except("source")
        sums = faults.group_by { |fault| part_of(fault.place) }.transform_values { |same| same.sum(&:rate) }
        whole = given.slice(*sums.keys).values.sum.to_f
        factors = sums.to_h { |part, sum| [part, @harness.template["rate"] * given.fetch(part) / whole / sum] }
        faults.map do |fault|
          fault.dup.tap { |scaled| scaled.rate = fault.rate * factors.fetch(part_of(fault.place)) }.freeze
        end
      end

      # What a place belongs to: all wiring is one part, all modules of a bus are one.
      def part_of(place)
        return "harness" if @wiring.include?(place)

        @harness.modules.any? { |id, _| id == place } ? "modules" : place
      end

      # A mode stands once for each place it can be in.
      def spread(mode)
        return [at(mode, mode["place"])] if mode["place"]

        case mode["each"]
        when %w[section wire]
          passing(@harness.sections, wires(mode).map { |wire| [wire] }) do |section, group|
            on_section(mode, section, group)
          end
        when %w[section]
          passing(@harness.sections, neighbours) { |section, group| on_section(mode, section, group) }
        when %w[connector wire]
          passing(connectors(mode), wires(mode).map { |wire| [wire] }) do |connector, group|
            on_connector(mode, connector, group)
          end
        when %w[connector]
          on_connectors(mode)
        when %w[module]
          modules(mode).map { |id, connector| on_module(mode, id, connector) }
        when %w[module wire]
          modules(mode).product(wires(mode)).map { |(id, connector), wire| on_module(mode, id, connector, wire) }
        when %w[far_end]
          [at(mode, @harness.template["far_end"]["id"])]
        when %w[near_end]
          [at(mode, @harness.template["near_end"]["id"])]
        when %w[ring]
          [at(mode, "ring")]
        end
      end

      # What the block makes of each connector or section and each group of wires that all pass it.
      def passing(spots, groups, &)
        spots.product(groups).select { |spot, wires| wires.all? { |wire| spot.carries?(wire) } }.map(&)
      end

      # A mode may be held to some kinds of connectors: only a fuse box has a fuse that can blow.
      def connectors(mode)
        kinds = mode.dig("only", "kinds") || Harness::KINDS
        @harness.connectors.select { |each| (kinds - (mode.dig("except", "kinds") || [])).include?(each.kind) }
      end

      def wires(mode)
        named = mode.dig("only", "wires")
        named ? @harness.wires.select { |wire| named.include?(wire.id) } : @harness.wires
      end

      def modules(mode)
        left_out = mode.dig("except", "modules") || []
        @harness.modules.reject { |id, _| left_out.include?(id) } # rubocop:disable Style/HashExcept -- pairs, no Hash
      end

      # wire: the one that it does something to, or nil for all.
      def on_module(mode, id, connector, wire = nil)
        record = mode.merge("observable" => mode["observable"]&.gsub("{module_id}", id))
        build(
          record,
          id: [id, wire&.id, mode["id"]].compact.join("."),
          place: id,
          rate: mode["rate"],
          target: target(mode, wire ? [wire] : @harness.wires, connector.id, "#{connector.id}.far"),
          name: fill(mode, module: @harness.module_name(id), wire: wire && names([wire]))
        )
      end

      # Wires that lie side by side, which may touch.
      def neighbours
        @harness.wires.each_cons(2).to_a
      end

      # Water lies between neighbours; a connector comes apart with all its wires.
      def on_connectors(mode)
        unless mode["effect"] == "between"
          return(
            connectors(mode).map { |connector| on_connector(mode, connector, wires_through(connector), named: false) }
          )
        end

        passing(connectors(mode), neighbours) do |connector, pair|
          on_connector(mode, connector, pair, named: neighbours.size > 1)
        end
      end

      def wires_through(connector)
        @harness.wires.select { |wire| connector.carries?(wire) }
      end

      # Where a wire comes from in this section, in words.
      def start_of(section, wires)
        passing_by = wires.reject { |wire| section.from.carries?(wire) }
        return section.from.name if passing_by.empty?

        passing_by.filter_map(&:starts_at).first || met_before(section.from, passing_by.first)&.name ||
          section.from.name
      end

      # The last connector before this one that a wire passes, or nil.
      def met_before(connector, wire)
        earlier = @harness.connectors.first(@harness.connectors.index(connector))
        earlier.reverse.find { |each| each.carries?(wire) }
      end

      def on_section(mode, section, wires)
        rate = mode["rate"] * (section.flexes ? mode.fetch("flex_factor", 1.0) : 1.0)
        rate *= 0.5 * (1 + (section.length_m / USUAL_LENGTH_M)) # ends fail as often, whatever lies between
        build(
          mode,
          id: section_id(mode, section, wires),
          place: section.id,
          rate: rate,
          target: target(mode, wires, section.id, "#{section.to.id}.near"),
          name: fill(mode, wire: names(wires), from: start_of(section, wires), to: section.to.name)
        )
      end

      def section_id(mode, section, wires)
        return "wire_#{wires[0].id}.#{section.id}.#{mode["id"]}" if wires.size == 1

        [("wires_#{wires.map(&:id).join("_")}" if neighbours.size > 1), section.id, mode["id"]].compact.join(".")
      end

      USUAL_LENGTH_M = 1.5 # of a harness section; the longer it is, the oftener it fails

      def on_connector(mode, connector, wires, named: wires.size == 1)
        rate = mode["rate"] * (connector.exposed ? mode.fetch("exposed_factor", 1.0) : 1.0)
        build(
          mode,
          id: [connector.id, (wires.map(&:id).join("_") if named), mode["id"]].compact.join("."),
          place: connector.id,
          rate: rate,
          target: target(mode, wires, connector.id, "#{connector.id}.#{mode.fetch("side", "far")}"),
          name: fill(mode, wire: names(wires), connector: connector.name)
        )
      end

      def names(wires)
        wires.map(&:name).join(" and ")
      end

      # Series effects name the elements they sit in; the others name the nodes they touch.
      def target(mode, wires, element_place, node_place)
        place = %w[series disconnected].include?(mode["effect"]) ? element_place : node_place
        wires.map { |each| "#{each.id}@#{place}" }.freeze
      end

      def at(mode, place)
        build(
          mode,
          id: "#{place}.#{mode["id"]}",
          place: place,
          rate: mode["rate"],
          target: (mode["target"] || []).freeze,
          name: mode["name"]
        )
      end

      def build(mode, id:, place:, rate:, target:, name:)
        Fault.new(
          id: id,
          mode: mode["id"],
          place: place,
          name: name,
          effect: mode["effect"],
          rate: rate,
          intermittent: mode["intermittent"],
          severities: severities(mode),
          target: target,
          pattern: mode["pattern"],
          repair: mode["repair"],
          record: mode,
          source: mode["source"]
        ).freeze
      end

      BREAK_OHM = 10_000 # what is never less than this is a break wherever it is

      # A harness that carries amperes minds a smaller resistance than a sensor's harness, a pull-up a larger one: its
      # template says from where. The grid keeps its steps and its upper end.
      def severities(mode)
        from = @harness.template["series_from_ohm"]
        low, last = mode["severity"]["log_uniform"]
        minded = from && mode["effect"] == "series" && (low || BREAK_OHM) < BREAK_OHM
        return Severity.grid(mode["severity"]) unless minded

        step = (last.to_f / low)**(1.0 / mode["severity"]["points"])
        points = (Math.log(last / from.to_f) / Math.log(step)).round
        Severity.grid("log_uniform" => [last / (step**points), last], "points" => points)
      end

      def fill(mode, **words)
        words.reduce(mode["name"]) { |text, (key, word)| text.gsub("{#{key}}", word.to_s) }
      end
    end
  end
end
