# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Causes that reach beyond one circuit, weighed by what they make of all the circuits they touch.
    module CommonCause
      # weight: prior times what the evidence of all touched circuits says; touched: circuit ids; place: where it is
      # mended.
      # cause: Vehicle::SharedCause, or nil for a supply that takes a module's power, or too much of it; circuit: that
      # supply; part: of its AtomWeights, :off, :was_off or :low; factor: what the evidence of all other touched
      # circuits says.
      Scenario = Struct.new(:cause, :circuit, :part, :weight, :touched, :place, :factor, keyword_init: true)

      # weights: {circuit id => CircuitWeights}; priors: Priors. Returns Array of Scenario.
      def self.scenarios(system, weights, priors)
        supplies = weights.values.select { |each| each.atoms.off }
        supplies.flat_map { |each| of_supply(system, weights, each) } +
          system.shared.filter_map { |cause| shared(system, cause, weights, priors) }
      end

      # What may be wrong with a supply: that it is lost, was lost now and then, or is low.
      def self.of_supply(system, weights, supply)
        lost = power_loss(system, weights, supply)
        passing = passing_power_loss(system, weights, supply) if supply.atoms.was_off
        [lost, passing, *low_supply(system, weights, supply, passing)].compact
      end

      # The other circuits of a supply's module.
      def self.dependents(system, supply)
        system.circuits.select { |each| each.module == supply.circuit.module && each.id != supply.circuit.id }.map(&:id)
      end

      # A module without power: its circuits show what they show then, on its buses it is silent.
      def self.power_loss(system, weights, supply)
        module_id = supply.circuit.module
        dependents = dependents(system, supply)
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
          part: :off,
          weight: supply.atoms.sum(:off) * factor,
          touched: [supply.circuit.id, *dependents, *buses].uniq,
          factor: factor
        )
      end

      # A module that lost its power now and then and has it at this moment: those on its buses missed it.
      def self.passing_power_loss(system, weights, supply)
        module_id = supply.circuit.module
        buses = system.buses_of(module_id).map(&:id)
        missed = buses.map { |id| weights.fetch(id).evidence.alternatives.fetch(EvidenceWeights.was_silent(module_id)) }
        factor = missed.reduce(1.0, :*)
        Scenario.new(
          circuit: supply.circuit,
          part: :was_off,
          weight: supply.atoms.sum(:was_off) * factor,
          touched: [supply.circuit.id, *buses],
          factor: factor
        )
      end

      # A supply that is low, or was lost now and then, as a code of its own says, with codes of other circuits of its
      # module that this has left. passing: its passing_power_loss, or nil.
      def self.low_supply(system, weights, supply, passing)
        return [] unless supply.evidence.claims.intersect?(AtomWeights::LOW_SUPPLY)

        upset =
          dependents(system, supply)
            .to_h { |id| [id, weights.fetch(id).evidence.alternatives[EvidenceWeights::UPSET]] }
            .compact
        return [] if upset.empty?

        factor = upset.values.reduce(:*)
        low =
          Scenario.new(
            circuit: supply.circuit,
            part: :low,
            weight: supply.atoms.sum(:low) * factor,
            touched: [supply.circuit.id, *upset.keys],
            factor: factor
          )
        [low, passing && with_codes(passing, upset, supply)]
      end

      def self.with_codes(passing, upset, supply)
        beside = upset.except(*passing.touched)
        factor = passing.factor * beside.values.reduce(1.0, :*)
        passing.dup.tap do |each|
          each.factor = factor
          each.touched = passing.touched | beside.keys
          each.weight = supply.atoms.sum(:was_off) * factor
        end
      end

      # Each member is affected by itself or not; a shared cause shows in two at least.
      def self.shared(system, cause, weights, priors)
        ids = cause.members.map { |circuit, _| circuit.id }
        carried = cause.members.to_h { |circuit, _| [circuit.id, carried(system, circuit, ids)] }
        members =
          cause.members.map do |circuit, faults|
            beside = carried[circuit.id]
            silent = [silence(circuit, beside, weights), passing_silence(circuit, beside, weights)]
            [circuit.id, share(weights.fetch(circuit.id), faults, *silent)]
          end
        missed = members.map { |id, _| (1 - cause.reach) * weights.fetch(id).sound }
        hit = members.map { |_, share| cause.reach * share }
        beside = carried.values.flatten.uniq
        weight = two_at_least(hit, missed) * priors.shared_rate(cause) * priors.lamp_fit(cause)
        Scenario.new(
          cause: cause,
          weight: beside.reduce(weight) { |product, id| product * weights.fetch(id).sound },
          touched: ids | beside,
          place: cause.place,
          factor: members.to_h
        )
      end

      # Circuits that fall silent with a supply: those of its module and the buses it hangs on. but: ids left out.
      def self.carried(system, circuit, but)
        return [] unless circuit.powers?

        own = system.circuits.select { |each| each.module == circuit.module }.map(&:id)
        (own | system.buses_of(circuit.module).map(&:id)) - but
      end

      # What a supply's loss makes of those, against what they are when sound.
      def self.silence(circuit, ids, weights)
        ids.reduce(1.0) do |product, id|
          own = weights.fetch(id)
          dead = own.evidence.alternatives
          product * (dead["silent_#{circuit.module}"] || dead.fetch(EvidenceWeights::UNPOWERED)) / own.sound
        end
      end

      # The same of a supply that was lost now and then: its own circuits are sound.
      def self.passing_silence(circuit, ids, weights)
        name = EvidenceWeights.was_silent(circuit.module)
        ids.reduce(1.0) do |product, id|
          own = weights.fetch(id)
          missed = own.evidence.alternatives[name]
          missed ? product * missed / own.sound : product
        end
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

      # What the evidence says of these faults of a circuit together, weighed by their priors. silence, passing: factors
      # for those that take the module its power, now or now and then.
      def self.share(weights, faults, silence, passing)
        prior = 0.0
        weighed = 0.0
        priors = weights.priors
        on = weights.atoms.on
        off = weights.atoms.off
        was_off = weights.atoms.was_off
        each_atom(weights, faults) do |d, i|
          prior += priors[d][i]
          weighed += on[d][i]
          weighed += off[d][i] * silence if off
          weighed += was_off[d][i] * passing if was_off
        end
        prior.positive? ? weighed / prior : weights.sound
      end

      # weights: CircuitWeights; faults: of its circuit. Yields the index and weight of each of their atoms.
      def self.each_atom(weights, faults)
        wanted = weights.circuit.model.atoms_of(faults)
        weights.priors.each_index { |d| wanted.each { |i| yield d, i } }
      end
      private_class_method :power_loss, :passing_power_loss, :shared, :two_at_least, :share, :carried, :silence
      private_class_method :passing_silence, :of_supply, :dependents, :low_supply, :with_codes
    end
  end
end
