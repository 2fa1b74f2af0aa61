# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Causes that reach beyond one circuit, weighed by what they make of all the circuits they touch.
    module CommonCause
      # weight: prior times what the evidence of all touched circuits says; touched: circuit ids; place: where it is
      # mended.
      # cause: Vehicle::SharedCause, or nil for a supply that takes a module's power; circuit: of that supply.
      Scenario = Struct.new(:cause, :circuit, :weight, :touched, :place, :factor, keyword_init: true)

      # weights: {circuit id => CircuitWeights}; priors: Priors. Returns Array of Scenario.
      def self.scenarios(system, weights, priors)
        supplies = weights.values.select(&:off).map { |each| power_loss(system, weights, each) }
        supplies + system.shared.filter_map { |cause| shared(cause, weights, priors) }
      end

      # A module without power: its circuits show what they show then, on its buses it is silent.
      def self.power_loss(system, weights, supply)
        module_id = supply.circuit.module
        dependents =
          system.circuits.select { |circuit| circuit.module == module_id && circuit.id != supply.circuit.id }.map(&:id)
        buses = system.buses_of(module_id).map(&:id)
        factor =
          dependents.reduce(1.0) do |product, id|
            product * weights.fetch(id).evidence.alternatives.fetch(EvidenceWeights::UNPOWERED)
          end
        factor =
          buses.reduce(factor) do |product, id|
            product * weights.fetch(id).evidence.alternatives.fetch("silent_#{module_id}")
          end
        Scenario.new(
          circuit: supply.circuit,
          weight: supply.off.sum(&:sum) * factor,
          touched: [supply.circuit.id, *dependents, *buses].uniq,
          factor: factor
        )
      end

      # Each member is affected by itself or not; a shared cause shows in two at least.
      def self.shared(cause, weights, priors)
        members = cause.members.map { |circuit, faults| [circuit.id, share(weights.fetch(circuit.id), faults)] }
        missed = members.map { |id, _| (1 - cause.reach) * weights.fetch(id).sound }
        hit = members.map { |_, share| cause.reach * share }
        weight = two_at_least(hit, missed) * priors.shared_rate(cause) * priors.lamp_fit(cause)
        Scenario.new(
          cause: cause,
          weight: weight,
          touched: members.map(&:first),
          place: cause.place,
          factor: members.to_h
        )
      end

      # Of independent members, each hit or missed with these weights: the weight of two at least being hit.
      def self.two_at_least(hit, missed)
        none = 1.0
        one = 0.0
        more = 0.0
        hit.zip(missed) do |here, gone|
          more = (more * (here + gone)) + (one * here)
          one = (one * gone) + (none * here)
          none *= gone
        end
        more
      end

      # What the evidence says of these faults of a circuit together, weighed by their priors.
      def self.share(weights, faults)
        prior = 0.0
        weighed = 0.0
        each_atom(weights, faults) do |d, i|
          prior += weights.priors[d][i]
          weighed += weights.priors[d][i] * weights.evidence.ratios[d][i]
        end
        prior.positive? ? weighed / prior : weights.sound
      end

      # weights: CircuitWeights; faults: of its circuit. Yields the index and weight of each of their atoms.
      def self.each_atom(weights, faults)
        wanted = weights.circuit.model.atoms_of(faults)
        weights.priors.each_index { |d| wanted.each { |i| yield d, i } }
      end
      private_class_method :power_loss, :shared, :two_at_least, :share
    end
  end
end
