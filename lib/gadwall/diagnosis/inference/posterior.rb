# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Probabilities after the evidence. Hypotheses: nothing wrong now; every set of faults in different circuits; pairs
    # in one circuit (SameCircuit); one cause that reaches several circuits (Vehicle::SharedCause), alone or with
    # others; a module without power, with what that makes of its circuits.
    #
    # Circuits are independent but for shared causes, so a set's weight is the product of its members' weights, each its
    # prior times the ratio that its own circuit's evidence gives it (EvidenceWeights). A second fault is as much rarer
    # as `second_fault` of data/diagnosis/model.yml says. With S_c the odds of some fault in circuit c, the sets sum to
    # product(1 + S_c), so nothing needs to be enumerated but what is shown. All weights of a circuit are shares of its
    # strongest explanation (EvidenceWeights), 1 and S_c alike, so that no product overflows.
    class Posterior
      NONE_PLACE = "none"

      attr_reader :system, :body, :circuits, :total, :scenarios, :second

      # system: Vehicle::System; body: Observations::Body.
      def initialize(system, body)
        @system = system
        @body = body
        @catalogue = system.catalogue
        @tables = {}
        @warned = body.warned
        @priors = Priors.new(system, body)
        prior = weigh
        @scenarios = CommonCause.scenarios(system, @circuits, @priors)
        @none = @priors.none(prior)
        @total =
          ((product - alone([])) / @second) + (@none * alone([])) +
            scenarios.sum { |scenario| scenario.weight * product(scenario.touched) }
      end

      # The circuits in the order of the sheet.
      def order
        @order ||= @circuits.keys.each_with_index.to_h
      end

      # The losses of power that a supply circuit can cause, now or now and then: Array of CommonCause::Scenario.
      def power_scenarios(circuit_id)
        (@power_scenarios ||= scenarios.reject(&:cause).group_by { |scenario| scenario.circuit.id }).fetch(
          circuit_id,
          []
        )
      end

      # Sets of faults and single faults, most probable first, `none` among them: Suspect. What is not listed adds up to
      # `unlisted`.
      def suspects
        @suspects ||= hypotheses.ranked.freeze
      end

      # The likeliest Suspect that a repair at just this place would cure, or nil. place: "circuit/place" or "none".
      def suspect_at(place)
        hypotheses.at(place)
      end

      # Share (0..1) of probability in sets that are not listed.
      def unlisted
        [1 - suspects.sum(&:probability), 0.0].max
      end

      # Probability (0..1) of a listed set. full_id: as Suspect#id.
      def probability(full_id)
        suspects.find { |suspect| suspect.id == full_id }&.probability || 0.0
      end

      # The weight of 'nothing wrong now' before the readings, on the scale of the priors.
      def none_prior
        @none
      end

      # Probability (0..1) that no fault is present.
      def none
        @none * alone([]) / total
      end

      # {place => probability that it is to be mended}, alone or with others; and `none`. Faults that the same repair
      # cures are one. With several faults these add up to more than 1.
      def places
        @places ||= place_chances.sort_by { |place, p| [-p, place] }.to_h.freeze
      end

      # {place => probability} of one circuit, shared causes that reach it included.
      def places_of(circuit_id)
        (@places_of ||= {})[circuit_id] ||= begin
          sums = Hash.new(0.0)
          beliefs(@circuits.fetch(circuit_id).circuit).rows.each { |place, _, _, p| sums[place] += p }
          sums
        end
      end

      # The chance that something is wrong at a place of a circuit, by itself or by a cause that reaches it.
      def chance_at(circuit_id, place)
        weights = @circuits.fetch(circuit_id)
        atoms = weights.circuit.model.atoms
        from_afar = shared_beliefs(weights.circuit).sum { |_, atom, _, p| atoms[atom].fault.place == place ? p : 0.0 }
        [places.fetch("#{circuit_id}/#{place}", 0.0) + from_afar, 1.0].min
      end

      # How much all else weighs beside a fault in this circuit: every set of faults in the other circuits, none
      # included.
      def others(id)
        (@others ||= {})[id] ||= begin
          elsewhere = scenarios.reject { |scenario| scenario.touched.include?(id) }
          product([id]) + (@second * elsewhere.sum { |scenario| scenario.weight * product([*scenario.touched, id]) })
        end
      end

      LEAST_BELIEF = 2e-5 # what is left out moves no rank
      KEPT_BELIEF = 0.998 # of a circuit's probability

      # What is still believed of a circuit: Beliefs. strong: only its strong part.
      def beliefs(circuit, strong: false)
        all = (@beliefs ||= {})[circuit.id] ||= Beliefs.new(strongest(circuit), self, circuit.model)
        strong ? all.strong : all
      end

      # Which places are one thing: Bodies.
      def bodies
        @bodies ||= Bodies.new(self)
      end

      # Probability that something sits in this circuit or reaches it.
      def circuit_probability(circuit)
        (@circuit_probabilities ||= {})[circuit.id] ||= [
          own_probability(circuit) + shared_beliefs(circuit).sum(&:last),
          1.0
        ].min
      end

      # How much of the time a fault is there: 1.0, and the presences of those that come and go.
      def presences
        @presences ||= [1.0, *@catalogue.model("presences")].freeze
      end

      LEAST_LOSS = 0.005 # a smaller chance moves no test's rank

      # Supplies whose loss shows on a bus, where their module says nothing: [[id of the supply circuit, id of the
      # module, probability], ...], [] for other circuits.
      def losses(bus)
        (@losses ||= {})[bus.id] ||= scenarios
          .select { |each| each.part == :off && bus.harness.modules.any? { |id, _| id == each.circuit.module } }
          .map { |each| [each.circuit.id, each.circuit.module, chance(each)] }
          .reject { |_, _, p| p < LEAST_LOSS }
      end

      # The chance that this circuit is at fault too when another one is.
      def fault_beside(circuit)
        weights = @circuits.fetch(circuit.id)
        weights.faulty / (weights.sound + weights.faulty)
      end

      # Probability of an scenario of CommonCause, whatever else is wrong where it does not touch.
      def chance(scenario)
        scenario.weight * product(scenario.touched) / total
      end

      # The weight of all circuits being sound but these. ids: circuit ids.
      def alone(ids)
        @log_sound ||= @circuits.each_value.sum { |weights| weights.evidence.log_sound }
        Math.exp(@log_sound - ids.sum { |id| @circuits.fetch(id).evidence.log_sound })
      end

      # What a test of this vehicle shows, with the unknown values as the readings say: Tests::TestTable.
      def table(circuit, test)
        (@tables[circuit.id] ||= {})[test.id] ||= circuit.model.table(test, @unknowns.point, warned: @warned)
      end

      # What the readings say of values that no sheet states: Unknowns.
      attr_reader :unknowns

      private

      def hypotheses
        @hypotheses ||= Suspects.new(self)
      end

      # Makes `circuits`, and `second`. Returns the sum of all priors.
      def weigh
        priors = system.circuits.to_h { |circuit| [circuit.id, @priors.by_atom(circuit, presences)] }
        prior = priors.each_value.sum { |rows| rows.sum(&:sum) }
        @second = @catalogue.model("second_fault") / prior
        false_codes = FalseCodes.new(@catalogue, body)
        on_bus = system.circuits.to_h { |circuit| [circuit.id, system.buses_of(circuit.module).any?] }
        evidence =
          system.circuits.to_h do |circuit|
            bus = on_bus.fetch(circuit.id)
            [circuit.id, EvidenceWeights.new(circuit, body, false_codes, presences, @catalogue, on_bus: bus)]
          end
        @unknowns = Unknowns.new(evidence, priors, @second)
        @circuits =
          system.circuits.to_h do |circuit|
            own = evidence.fetch(circuit.id)
            missed = on_bus.fetch(circuit.id)
            [
              circuit.id,
              CircuitWeights.new(circuit, own, priors.fetch(circuit.id), presences, @catalogue, missed: missed)
            ]
          end
        @circuits.each_value { |weights| weights.scale(@second, @unknowns.point) }
        prior
      end

      # The weight of the circuits, sound or faulty, but for these.
      def product(without = [])
        @product ||= @circuits.each_value.reduce(1.0) { |product, weights| product * weights.whole }
        without.reduce(@product) { |product, id| product / @circuits.fetch(id).whole }
      end

      # The probability of a fault of this circuit's own: of one, of two in it, of one that takes its module's power.
      def own_probability(circuit)
        weights = @circuits.fetch(circuit.id)
        pairs = weights.pairs.sum(&:weight)
        power = power_scenarios(circuit.id).sum { |scenario| chance(scenario) }
        ((weights.single_fault_weight + pairs) * others(circuit.id) / total) + power
      end

      def power_loss_factor(scenario)
        scenario.factor * product(scenario.touched) / total
      end

      # What shared causes make believed of a circuit, as rows of `beliefs`.
      def shared_beliefs(circuit)
        (@shared_beliefs ||= {})[circuit.id] ||= scenarios
          .select { |scenario| scenario.cause && scenario.factor.key?(circuit.id) }
          .flat_map do |scenario|
            p = chance(scenario)
            p < LEAST_BELIEF ? [] : reached(scenario, circuit, p)
          end
      end

      def reached(scenario, circuit, chance)
        weights = @circuits.fetch(circuit.id)
        faults = scenario.cause.members.find { |member, _| member.id == circuit.id }.last
        hit = scenario.cause.reach * scenario.factor.fetch(circuit.id)
        affected = hit / (hit + ((1 - scenario.cause.reach) * weights.sound))
        rows = []
        CommonCause.each_atom(weights, faults) do |d, i|
          rows << [scenario.place, i, d, weights.priors[d][i] * weights.evidence.ratios[d][i]]
        end
        sum = rows.sum(&:last)
        sum.zero? ? [] : rows.map { |place, i, d, weight| [place, i, d, weight / sum * affected * chance] }
      end

      def place_chances
        chances = Hash.new(0.0)
        chances[NONE_PLACE] = none
        @circuits.each_value do |weights|
          sums = own_sums(weights)
          weights.circuit.place_names.each_with_index { |place, k| chances[place] += sums[k] }
        end
        scenarios.each { |scenario| chances[scenario.place] += chance(scenario) if scenario.cause }
        chances.transform_values { |p| [p, 1.0].min }
      end

      # By place of a circuit: the chance that a fault of its own sits there.
      def own_sums(weights)
        model = weights.circuit.model
        factor = others(weights.circuit.id) / total
        sums = weights.atoms.by_place.map { |weight| weight * factor }
        weights.pairs.each do |pair|
          each_of(pair, weights) { |i, share| sums[model.place_of_atom[i]] += pair.weight * factor * share }
        end
        power_scenarios(weights.circuit.id).each do |scenario|
          lost = power_loss_factor(scenario)
          weights.atoms.by_place(scenario.part).each_with_index { |weight, place| sums[place] += weight * lost }
        end
        sums
      end

      # The atoms of a pair, each with the share that it has in its place: two at one place are mended together.
      def each_of(pair, weights)
        same = pair.atoms.map { |i| weights.circuit.model.place_of_atom[i] }.uniq.size == 1
        pair.atoms.each { |i| yield i, same ? 0.5 : 1.0 }
      end

      # Those of the circuit's own faults, as rows of Beliefs. Most circuits have none that is worth more than a glance.
      def own_beliefs(circuit)
        weights = @circuits.fetch(circuit.id)
        factor = others(circuit.id) / total
        more = (weights.pairs.sum(&:weight) * factor) + power_scenarios(circuit.id).sum { |scenario| chance(scenario) }
        weights
          .atoms
          .peaks
          .each_index
          .select { |d| (weights.atoms.peaks[d] * factor) + more >= LEAST_BELIEF }
          .flat_map { |d| own_beliefs_at(weights, d) }
      end

      def own_beliefs_at(weights, presence)
        places = weights.circuit.model.place_of_atom
        names = weights.circuit.place_names
        rows = []
        atom_chances(weights, presence).each_with_index do |p, i|
          rows << [names[places[i]], i, presence, p] if p >= LEAST_BELIEF
        end
        rows
      end

      # By atom: its probability at one presence, as a fault of its own.
      def atom_chances(weights, presence)
        factor = others(weights.circuit.id) / total
        row = weights.atoms.on[presence].map { |weight| weight * factor }
        if presence.zero?
          weights.pairs.each { |pair| each_of(pair, weights) { |i, share| row[i] += pair.weight * factor * share } }
        end
        power_scenarios(weights.circuit.id).each do |scenario|
          lost = power_loss_factor(scenario)
          weights.atoms.public_send(scenario.part)[presence].each_with_index { |weight, i| row[i] += weight * lost }
        end
        row
      end

      def strongest(circuit)
        all = own_beliefs(circuit)
        all.concat(shared_beliefs(circuit).select { |row| row.last >= LEAST_BELIEF })
        Beliefs.trim(all.sort_by!(&:last), circuit_probability(circuit) * (1 - KEPT_BELIEF))
      end
    end
  end
end
