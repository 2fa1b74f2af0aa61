# frozen_string_literal: true

module Gadwall
  module Circuits
    # What each kind of fault does to the line. One row for each effect that data/parts may name.
    # Each takes the fault, its severity and the line, and returns a Condition.
    module Effect
      ROWS = {
        "none" => ->(_, _, _) { Condition::SOUND },
        "series" => ->(fault, ohm, _) { Condition.new(series: fault.target.to_h { |id| [id, ohm] }) },
        "apart" => ->(fault, ohm, _) { Condition.new(series: fault.target.to_h { |id| [id, ohm] }) },
        "to_ground" => ->(fault, ohm, _) { Condition.new(bridges: [[fault.target[0], Network::GROUND, ohm]]) },
        "to_supply" => ->(fault, ohm, _) { Condition.new(bridges: [[fault.target[0], "supply", ohm]]) },
        "between" => ->(fault, ohm, _) { Condition.new(bridges: [[fault.target[0], fault.target[1], ohm]]) },
        # A part of the template itself: more resistance in it, something across it, a weaker source.
        "element" => ->(fault, ohm, _) { Condition.new(series: Array(fault.record["element"]).to_h { |id| [id, ohm] }, signs: signs(fault)) },
        "across" => ->(fault, ohm, line) { Condition.new(bridges: [[*ends(line, fault.record["element"]), ohm]], signs: signs(fault)) },
        "drive" => ->(fault, factor, _) { Condition.new(drives: Array(fault.record["element"]).to_h { |id| [id, factor] }, signs: signs(fault)) },
        # A contact or a valve that stands still, whatever is asked of it.
        "setting" => ->(fault, _, _) { Condition.new(settings: fault.record["settings"], signs: signs(fault)) },
        "sign" => ->(fault, _, _) { Condition.new(signs: signs(fault)) },
        # Wheel-speed circuits.
        "tail_open" => ->(_, ohm, line) { Condition.new(series: { line.template["elements"].last["id"] => ohm }, sink: 0.0, amplitude: 0.0) },
        "tail_across" => ->(_, ohm, line) { Condition.new(bridges: [[line.node("#{line.wires[0].id}@tail"), line.node("#{line.wires[1].id}@tail"), ohm]]) },
        "no_signal" => ->(_, _, line) { Condition.new(amplitude: 0.0, drives: spin_drives(line, 0.0)) },
        "weak_signal" => ->(_, factor, line) { Condition.new(amplitude: factor, drives: spin_drives(line, factor)) },
        "pattern" => ->(fault, _, _) { Condition.new(pattern: fault.pattern) },
        "head_dead" => ->(_, kind, line) { kind == "deaf" ? Condition.new(deaf: true, signs: ["deaf"]) : unpowered(line) }
      }.freeze

      # The line with this fault in it at this severity. Returns a Condition.
      def self.condition(line, fault, severity)
        ROWS.fetch(fault.effect).call(fault, severity, line)
      end

      # The module end without its supply, or burnt: it feeds nothing and hears nothing. A template may name what goes dead.
      def self.unpowered(line)
        named = line.template["unpowered"]
        named ||= line.template["elements"].select { |element| element["kind"] == "source" && element["a"].end_with?("@head") }.map { |element| element["id"] }
        Condition.new(drives: named.to_h { |id| [id, 0.0] }, deaf: true, signs: ["deaf"])
      end

      # Sources that only the turning wheel drives: the coil of a passive sensor.
      def self.spin_drives(line, factor)
        line.template["elements"].select { |element| element["kind"] == "source" && element["when"]&.key?("spin") }
            .to_h { |element| [element["id"], factor] }
      end

      def self.ends(line, id)
        element = line.element(id)
        [line.node(element["a"]), line.node(element["b"])]
      end

      def self.signs(fault)
        Array(fault.record["sign"])
      end
      private_class_method :spin_drives, :ends, :signs
    end
  end
end
