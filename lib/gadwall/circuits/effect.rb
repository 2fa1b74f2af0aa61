# frozen_string_literal: true

module Gadwall
  module Circuits
    # What each kind of fault does to the harness. One row for each effect that data/parts may name.
    # Each takes the fault, its severity and the harness, and returns a Condition.
    module Effect
      ROWS = {
        "none" => ->(_, _, _) { Condition::SOUND },
        "series" => ->(fault, ohm, _) { Condition.new(series: fault.target.to_h { |id| [id, ohm] }) },
        "disconnected" => ->(fault, ohm, _) { Condition.new(series: fault.target.to_h { |id| [id, ohm] }) },
        "to_ground" => ->(fault, ohm, harness) { grounded(fault.target[0], ohm, harness) },
        "to_supply" => ->(fault, ohm, _) { Condition.new(bridges: [[fault.target[0], "supply", ohm]]) },
        "between" => ->(fault, ohm, harness) { joined(*fault.target, ohm, harness) },
        # A part of the template itself: more resistance in it, something across it, a weaker source.
        "element" =>
          lambda do |fault, ohm, _|
            Condition.new(
              series: Array(fault.record["element"]).to_h { |id| [id, ohm] },
              observables: observables(fault)
            )
          end,
        "across" =>
          lambda do |fault, ohm, harness|
            Condition.new(bridges: [[*ends(harness, fault.record["element"]), ohm]], observables: observables(fault))
          end,
        "drive" =>
          lambda do |fault, factor, _|
            Condition.new(
              drives: Array(fault.record["element"]).to_h { |id| [id, factor] },
              observables: observables(fault)
            )
          end,
        # A contact or a valve that stands still, whatever is asked of it.
        "setting" =>
          lambda { |fault, _, _| Condition.new(settings: fault.record["settings"], observables: observables(fault)) },
        "observable" => ->(fault, _, _) { Condition.new(observables: observables(fault)) },
        # Wheel-speed circuits.
        "far_end_open" =>
          lambda do |_, ohm, harness|
            Condition.new(series: { harness.template["elements"].last["id"] => ohm }, sink: 0.0, amplitude: 0.0)
          end,
        "far_end_across" =>
          lambda do |_, ohm, harness|
            Condition.new(
              bridges: [
                [harness.node("#{harness.wires[0].id}@far_end"), harness.node("#{harness.wires[1].id}@far_end"), ohm]
              ]
            )
          end,
        "no_signal" => ->(_, _, harness) { Condition.new(amplitude: 0.0, drives: spin_drives(harness, 0.0)) },
        "weak_signal" =>
          lambda { |_, factor, harness| Condition.new(amplitude: factor, drives: spin_drives(harness, factor)) },
        "pattern" => ->(fault, _, _) { Condition.new(pattern: fault.pattern) },
        "near_end_dead" =>
          lambda do |_, kind, harness|
            kind == "deaf" ? Condition.new(deaf: true, observables: ["deaf"]) : unpowered(harness)
          end
      }.freeze

      # The harness with this fault in it at this severity. Returns a Condition.
      def self.condition(harness, fault, severity)
        ROWS.fetch(fault.effect).call(fault, severity, harness)
      end

      # The module end without its supply, or burnt: it feeds nothing and hears nothing. A template may name what goes
      # dead.
      def self.unpowered(harness)
        named = harness.template["unpowered"]
        named ||=
          harness.template["elements"]
            .select { |element| element["kind"] == "source" && element["a"].end_with?("@near_end") }
            .map { |element| element["id"] }
        Condition.new(drives: named.to_h { |id| [id, 0.0] }, deaf: true, observables: ["deaf"])
      end

      # Sources that only the turning wheel drives: the coil of a passive sensor.
      def self.spin_drives(harness, factor)
        harness.template["elements"]
          .select { |element| element["kind"] == "source" && element["when"]&.key?("spin") }
          .to_h { |element| [element["id"], factor] }
      end

      BLOWS_BELOW_OHM = 0.5 # common practice: 12 V over half an ohm is 25 A, and a fuse of a module's feed is blown

      # A wire that touches ground.
      def self.grounded(node, ohm, harness)
        Condition.new(series: blown(node, ohm, harness), bridges: [[node, Network::GROUND, ohm]])
      end

      # Two wires that touch.
      def self.joined(node, other, ohm, harness)
        wires = [node, other].map { |each| each.split("@").first }
        feed = wires.first == "ground_wire" ? other : node
        fused = wires.include?("ground_wire") ? blown(feed, ohm, harness) : {}
        Condition.new(series: fused, bridges: [[node, other, ohm]])
      end

      # Where a fused wire touches ground well, its fuse blows: what that changes in series.
      def self.blown(node, ohm, harness)
        wire = node.split("@").first
        fuse = harness.connectors.find { |each| each.kind == "fuse_box" && each.wires.include?(wire) }
        fuse && ohm < BLOWS_BELOW_OHM && FUSED.include?(wire) ? { "#{wire}@#{fuse.id}" => 200_000_000 } : {}
      end

      FUSED = %w[feed valve_feed].freeze # wires that run over it

      def self.ends(harness, id)
        element = harness.element(id)
        [harness.node(element["a"]), harness.node(element["b"])]
      end

      def self.observables(fault)
        Array(fault.record["observable"])
      end
      private_class_method :grounded, :joined, :blown, :spin_drives, :ends, :observables
    end
  end
end
