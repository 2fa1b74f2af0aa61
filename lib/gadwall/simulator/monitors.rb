# frozen_string_literal: true

module Gadwall
  module Simulator
    # The monitors that a module runs on one circuit: rules of its template, held to the solved wiring. A monitor fails
    # or passes; how often one misses is not asked here.
    class Monitors
      AT_REST = { "bus" => "asleep", "pump" => "stopped", "pedal" => "released" }.freeze # where a rule says nothing
      WALKING_KM_H = 10.0 # common practice: an induced voltage grows with speed; a weak one counts above walking pace
      FAILS_FROM = 0.5 # a rule that names a sign with less is no certain failure

      # circuit: Vehicle::System::Circuit; wiring: Wiring.
      def initialize(circuit, wiring)
        @circuit = circuit
        @wiring = wiring
        @rules =
          circuit.harness.template["monitors"].flat_map { |rule| rule["each"] == "module" ? for_modules(rule) : [rule] }
      end

      # All claims that its monitors can make.
      def claims
        @rules.map { |rule| rule["claim"] }.uniq
      end

      # Claims whose monitors ran in this state: {claim => failed?}.
      def run(state)
        return {} unless state.awake?

        ran = @rules.select { |rule| runs?(rule, state) }
        ran.group_by { |rule| rule["claim"] }.transform_values { |rules| rules.any? { |rule| fails?(rule, state) } }
      end

      private

      # On a bus each module is missed by the others when the pair behind its connector carries nothing.
      def for_modules(rule)
        first = @circuit.harness.connectors.first.id
        @circuit.harness.modules.map do |id, connector|
          side = connector.id == first ? "near" : "far"
          nodes = rule["probes"].map { |wire| wire == "ground" ? wire : "#{wire}@#{connector.id}.#{side}" }
          rule.merge("claim" => "#{rule["claim"]}_#{id}", "probes" => nodes)
        end
      end

      # Those that need a drive run in one; the rest with the key on.
      def runs?(rule, state)
        rule["runs"] != "driving" || !state.still?
      end

      # A rule that speaks of a state (pedal pressed, pump commanded, bus busy) is looked at in that state: within a
      # drive each comes about.
      def fails?(rule, state)
        return signal?(rule, state) if rule["signal"]
        return observed?(rule) if rule["observables"]
        return named?(rule) if rule["faults"]

        kind = rule["probes"] ? "volts" : %w[ohms amperes].find { |name| rule[name] }
        forced = AT_REST.merge(rule["state"] || {})
        value = @wiring.measure(kind, @circuit.id, rule["probes"] || rule[kind], state, forced: forced)
        factor = kind == "volts" ? @circuit.harness.limit_factor(absolute: rule["absolute"]) : 1
        (rule["below"].nil? || value < rule["below"] * factor) && (rule["above"].nil? || value > rule["above"] * factor)
      end

      # A weak signal is lost at walking pace, and found again above it.
      def signal?(rule, state)
        seen = @circuit.model.predictor.module_signal(@wiring.condition(@circuit))
        return state.speed_km_h <= WALKING_KM_H && rule["signal"].key?("weak") if seen == "weak"

        rule["signal"].fetch(seen, 0.0) >= FAILS_FROM
      end

      def observed?(rule)
        signs = @wiring.condition(@circuit).observables
        rule["observables"].any? { |sign, chance| chance >= FAILS_FROM && signs.include?(sign) }
      end

      def named?(rule)
        @wiring
          .present(@circuit)
          .any? do |each|
            names = [each.fault.mode, "#{each.fault.place}.#{each.fault.mode}"]
            rule["faults"].any? do |pattern, chance|
              chance >= FAILS_FROM && names.any? { |name| File.fnmatch(pattern, name) }
            end
          end
      end
    end
  end
end
