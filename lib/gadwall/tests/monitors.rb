# frozen_string_literal: true

module Gadwall
  module Tests
    # What a control module's own monitors would make of a harness: chances that a claim is raised, computed from the
    # same solved circuit that the technician's meter is held to.
    #
    # A rule of a template raises its claim by a window of volts or ohms, by the category of the wheel signal, by a sign
    # of the condition, or by the fault itself.
    class Monitors
      # Chances by claim: {claim => chance} with its module dead.
      attr_reader :unpowered

      # kept: what `kept` gave of the monitors of the same harness, or nil to compute it.
      def initialize(model, kept = nil)
        @model = model
        @rules =
          model.harness.template["monitors"].flat_map { |rule| rule["each"] == "module" ? for_modules(rule) : [rule] }
        @watch = Watch.new(model.harness, model.predictor)
        @probe =
          Test.new(id: "monitor", kind: "watch", state: Circuits::Harness::State.of, probes: [], record: {}).freeze
        @spread = {}
        kept ? (@spread, @unpowered, @by_claim = kept) : compute
        @watch.rest
      end

      # What was computed, as plain values that can be put away.
      def kept
        [plain(@spread), plain(@unpowered), @by_claim]
      end

      # Does the claim, or one of those it may stand for, belong to monitors that run at key-on?
      def key_on?(claims)
        @rules.any? { |rule| claims.include?(rule["claim"]) && rule["runs"] == "key_on" }
      end

      # Claims that its rules can raise: Array of ids.
      def claims
        @claims ||= @rules.map { |rule| rule["claim"] }.uniq.freeze
      end

      # By atom: the chance that any of these claims was raised by now, for a fault that is there with this presence.
      # A fault that comes and goes may also be seen by its drop-outs.
      def raised(claims, presence)
        (@raised ||= {})[[claims, presence]] ||= begin
          breaks = presence < 1.0 ? dropout_chance(claims) : 0.0
          by_atom(claims)
            .map { |chance| presence == 1.0 || chance.zero? ? chance : [chance, breaks].max * CAUGHT_BY_NOW }
            .freeze
        end
      end

      # The chance (0..1) that one of these claims is raised with the module dead.
      def raised_unpowered(claims)
        highest(unpowered, claims)
      end

      CAUGHT_BY_NOW = 0.9 # from memory: a fault that comes and goes has mostly been seen once by the time of the scan

      # {claim => chance} of one atom.
      def of_atom(index)
        @by_claim.transform_values { |chances| chances[index] }
      end

      # {claim => chance} of a condition that is no atom's: the sound circuit, a fault between two of its severities,
      # two faults at once. fault: the one that makes the condition, or nil.
      def of_condition(condition, fault = nil)
        row(condition, fault).slice(*claims)
      end

      # By atom: the highest chance among those of the claims that key-on monitors raise.
      def key_on_chance(claims)
        (@key_on_chance ||= {})[claims] ||= by_atom(claims.select { |claim| key_on?([claim]) }).freeze
      end

      # By atom: the highest chance among these claims.
      def by_atom(claims)
        columns = claims.filter_map { |claim| @by_claim[claim] }
        return Array.new(@model.atoms.size, 0.0) if columns.empty?

        columns.size == 1 ? columns[0].dup : columns[0].zip(*columns[1..]).map(&:max)
      end

      private

      def compute
        @spread = row(Circuits::Condition::SOUND)
        @unpowered = row(@model.unpowered)
        rows = @model.atoms.map { |atom| row(atom.condition, atom.fault) }
        @by_claim = claims.to_h { |claim| [claim, rows.map { |row| row[claim] }.freeze] }
      end

      def plain(row)
        {}.merge(row)
      end

      # A module on a bus is lost by the others when the pair of wires behind its connector carries nothing: claim
      # "lost_cluster". The first connector's module sits before it.
      def for_modules(rule)
        @model.harness.modules.map do |id, connector|
          side = connector.id == @model.harness.connectors.first.id ? "near" : "far"
          nodes = rule["probes"].map { |wire| wire == "ground" ? wire : "#{wire}@#{connector.id}.#{side}" }
          rule.merge("claim" => "#{rule["claim"]}_#{id}", "probes" => nodes)
        end +
          @model.harness.modules.map do |id, _|
            { "claim" => "#{rule["claim"]}_#{id}", "observables" => { "silent_#{id}" => 0.95 }, "runs" => "key_on" }
          end
      end

      def highest(row, claims)
        claims.map { |claim| row[claim] || 0.0 }.max || 0.0
      end

      # The chance that drop-outs while driving raise one of the claims.
      def dropout_chance(claims)
        @rules
          .select { |rule| claims.include?(rule["claim"]) && rule["signal"] }
          .map { |rule| rule["signal"]["dropouts"] || 0.0 }
          .max || 0.0
      end

      def row(condition, fault = nil)
        Thread.pass # others may go on: there are many rows
        signal = @model.predictor.module_signal(condition)
        @rules.each_with_object(Hash.new(0.0)) do |rule, row|
          raised = beyond_spread(rule, chance(rule, condition, signal, fault))
          row[rule["claim"]] = [row[rule["claim"]], raised].max
        end
      end

      # What would be raised with the circuit sound comes from the spread of our figures: a module's window is set so
      # that a sound circuit, whatever its tolerances, never trips it.
      def beyond_spread(rule, chance)
        spread = @spread.fetch(rule["claim"], 0.0)
        [(chance - spread) / (1 - spread), 0.0].max
      end

      def chance(rule, condition, signal, fault)
        return rule["signal"].fetch(signal, 0.0) if rule["signal"]
        return by_fault(rule["faults"], fault) if rule["faults"]
        if rule["observables"]
          return(
            rule["observables"].filter_map { |sign, chance| chance if condition.observables.include?(sign) }.max || 0.0
          )
        end

        rule["detect"] * @watch.holds(@probe, volts(rule), condition, fault)
      end

      def by_fault(chances, fault)
        return 0.0 unless fault

        chances
          .find do |pattern, _|
            [fault.mode, "#{fault.place}.#{fault.mode}"].any? { |name| File.fnmatch(pattern, name) }
          end
          &.last || 0.0
      end

      def volts(rule)
        @volts ||= {}.compare_by_identity
        @volts[rule] ||= rule["probes"] ? rule.merge("volts" => rule["probes"]) : rule
      end
    end
  end
end
