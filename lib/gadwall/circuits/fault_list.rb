# frozen_string_literal: true

module Gadwall
  module Circuits
    # Every fault of a line, from the failure-mode records that its template names.
    class FaultList
      # Returns an Array of Fault. catalogue: for data/parts.
      def self.for(line, catalogue)
        new(line, catalogue).faults
      end

      def initialize(line, catalogue)
        @line = line
        @catalogue = catalogue
      end

      def faults
        @line.template["faults"].flat_map { |file| @catalogue.failure_modes(file) }.flat_map { |mode| spread(mode) }
      end

      private

      # A mode stands once for each place it can be in.
      def spread(mode)
        return [at(mode, mode["place"])] if mode["place"]

        case mode["each"]
        when %w[section wire] then @line.sections.product(wires(mode)).map { |section, wire| on_section(mode, section, [wire]) }
        when %w[section] then @line.sections.product(neighbours).map { |section, pair| on_section(mode, section, pair) }
        when %w[joint wire] then joints(mode).product(wires(mode)).map { |joint, wire| on_joint(mode, joint, [wire]) }
        when %w[joint] then on_joints(mode)
        when %w[module] then modules(mode).map { |id, joint| on_module(mode, id, joint) }
        when %w[tail] then [at(mode, @line.template["tail"]["id"])]
        when %w[head] then [at(mode, @line.template["head"]["id"])]
        when %w[ring] then [at(mode, "ring")]
        end
      end

      # A mode may be held to some joints and wires: only a fuse can blow.
      def joints(mode)
        named = mode.dig("only", "joints")
        named ? @line.joints.select { |joint| named.include?(joint.id) } : @line.joints
      end

      def wires(mode)
        named = mode.dig("only", "wires")
        named ? @line.wires.select { |wire| named.include?(wire.id) } : @line.wires
      end

      def modules(mode)
        @line.modules.reject { |id, _| (mode.dig("except", "modules") || []).include?(id) }
      end

      def on_module(mode, id, joint)
        record = mode.merge("sign" => mode["sign"]&.gsub("{module_id}", id))
        build(record, id: "#{id}.#{mode['id']}", place: id, rate: mode["rate"], target: target(mode, @line.wires, joint.id, "#{joint.id}.tail"),
                      name: fill(mode, module: @line.module_name(id)))
      end

      # Wires that lie side by side, which may touch.
      def neighbours
        @line.wires.each_cons(2).to_a
      end

      # Water lies between neighbours; a joint comes apart with all its wires.
      def on_joints(mode)
        return joints(mode).map { |joint| on_joint(mode, joint, @line.wires, named: false) } unless mode["effect"] == "between"

        joints(mode).product(neighbours).map { |joint, pair| on_joint(mode, joint, pair, named: neighbours.size > 1) }
      end

      def on_section(mode, section, wires)
        rate = mode["rate"] * (section.flexes ? mode.fetch("flex_factor", 1.0) : 1.0)
        build(mode, id: section_id(mode, section, wires), place: section.id, rate: rate, target: target(mode, wires, section.id, "#{section.to.id}.head"),
                    name: fill(mode, wire: names(wires), from: section.from.name, to: section.to.name))
      end

      def section_id(mode, section, wires)
        return "wire_#{wires[0].id}.#{section.id}.#{mode['id']}" if wires.size == 1

        [("wires_#{wires.map(&:id).join('_')}" if neighbours.size > 1), section.id, mode["id"]].compact.join(".")
      end

      def on_joint(mode, joint, wires, named: wires.size == 1)
        rate = mode["rate"] * (joint.exposed ? mode.fetch("exposed_factor", 1.0) : 1.0)
        build(mode, id: [joint.id, (wires.map(&:id).join("_") if named), mode["id"]].compact.join("."), place: joint.id, rate: rate,
                    target: target(mode, wires, joint.id, "#{joint.id}.tail"), name: fill(mode, wire: names(wires), joint: joint.name))
      end

      def names(wires)
        wires.map(&:name).join(" and ")
      end

      # Series effects name the elements they sit in; the others name the nodes they touch.
      def target(mode, wires, element_place, node_place)
        place = %w[series apart].include?(mode["effect"]) ? element_place : node_place
        wires.map { |each| "#{each.id}@#{place}" }.freeze
      end

      def at(mode, place)
        build(mode, id: "#{place}.#{mode['id']}", place: place, rate: mode["rate"], target: (mode["target"] || []).freeze, name: mode["name"])
      end

      def build(mode, id:, place:, rate:, target:, name:)
        Fault.new(id: id, mode: mode["id"], place: place, name: name, effect: mode["effect"], rate: rate, intermittent: mode["intermittent"],
                  severities: severities(mode), target: target, pattern: mode["pattern"], repair: mode["repair"], record: mode,
                  source: mode["source"]).freeze
      end

      # A line that carries amperes minds a smaller resistance than a sensor's line: its template says from where.
      def severities(mode)
        from = @line.template["series_from_ohm"]
        return Severity.grid(mode["severity"]) unless from && mode["effect"] == "series" && mode["severity"]["log_uniform"]

        Severity.grid("log_uniform" => [from, mode["severity"]["log_uniform"].last], "points" => mode["severity"]["points"] + 2)
      end

      def fill(mode, **words)
        words.reduce(mode["name"]) { |text, (key, word)| text.gsub("{#{key}}", word.to_s) }
      end
    end
  end
end
