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
        case mode["each"]
        when %w[section wire] then pairs(@line.sections).map { |section, wire| on_section(mode, section, wire) }
        when %w[section] then @line.sections.map { |section| on_section(mode, section, nil) }
        when %w[joint wire] then pairs(@line.joints).map { |joint, wire| on_joint(mode, joint, wire) }
        when %w[joint] then @line.joints.map { |joint| on_joint(mode, joint, nil) }
        when %w[tail] then [at_end(mode, @line.template["tail"]["id"])]
        when %w[head] then [at_end(mode, @line.template["head"]["id"])]
        when %w[ring] then [at_end(mode, "ring")]
        end
      end

      def pairs(places)
        places.product(@line.wires)
      end

      def on_section(mode, section, wire)
        rate = mode["rate"] * (section.flexes ? mode.fetch("flex_factor", 1.0) : 1.0)
        id = wire ? "wire_#{wire.id}.#{section.id}.#{mode['id']}" : "#{section.id}.#{mode['id']}"
        build(mode, id: id, place: section.id, rate: rate, target: target(mode, wire, section.id, "#{section.to.id}.head"),
                    name: fill(mode, wire: wire&.name, from: section.from.name, to: section.to.name))
      end

      def on_joint(mode, joint, wire)
        rate = mode["rate"] * (joint.exposed ? mode.fetch("exposed_factor", 1.0) : 1.0)
        build(mode, id: [joint.id, wire&.id, mode["id"]].compact.join("."), place: joint.id, rate: rate,
                    target: target(mode, wire, joint.id, "#{joint.id}.tail"), name: fill(mode, wire: wire&.name, joint: joint.name))
      end

      # Series effects name the elements they sit in; the others name the nodes they touch.
      def target(mode, wire, element_place, node_place)
        place = %w[series apart].include?(mode["effect"]) ? element_place : node_place
        (wire ? [wire] : @line.wires).map { |each| "#{each.id}@#{place}" }.freeze
      end

      def at_end(mode, place)
        build(mode, id: "#{place}.#{mode['id']}", place: place, rate: mode["rate"], target: [].freeze, name: mode["name"])
      end

      def build(mode, id:, place:, rate:, target:, name:)
        Fault.new(id: id, mode: mode["id"], place: place, name: name, effect: mode["effect"], rate: rate, intermittent: mode["intermittent"],
                  severities: severities(mode), target: target, pattern: mode["pattern"], repair: mode["repair"],
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
