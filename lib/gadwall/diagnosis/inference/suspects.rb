# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Names the hypotheses that a page or a file shows: nothing wrong now, every single fault, shared causes, and the
    # strongest sets of two and three, found by a beam from the strongest singles.
    class Suspects
      # members: [[Circuit, Fault], ...], [] for nothing wrong now; cause: Vehicle::SharedCause or nil; probability: of
      # just this set; place: what would be mended, "circuit/place", several joined by " + ".
      Suspect =
        Struct.new(:members, :cause, :probability, :place, keyword_init: true) do
          # Is it that no fault is present?
          def none?
            members.empty?
          end

          # Of its first fault, or nil.
          def circuit
            members.first&.first
          end

          # Its first Circuits::Fault, or nil.
          def fault
            members.first&.last
          end

          # "connector" or "section" where its first fault sits in one, else that place's own name.
          def place_kind
            harness = circuit.harness
            return "connector" if harness.connectors.any? { |each| each.id == fault.place }

            harness.sections.any? { |each| each.id == fault.place } ? "section" : fault.place
          end

          # Id of the repair that cures it, or nil.
          def repair
            cause ? cause.repair : fault&.repair
          end

          # "front_left.sensor.open", joined by " + "; "none" for no fault.
          def id
            return "none" if none?

            cause ? cause.id : members.map { |circuit, fault| "#{circuit.id}.#{fault.id}" }.join(" + ")
          end

          # In words, as a technician would say it.
          def text
            return "no fault present" if none?

            if cause
              "#{cause.name} (#{members.map { |circuit, _| circuit.title }.join(", ")})"
            else
              members.map { |circuit, fault| "#{circuit.title}: #{fault.name}" }.join("; and ")
            end
          end

          # ["front_left/sensor", ...].
          def places
            place.split(" + ")
          end
        end

      LEAST = 1e-5 # a set less likely than this is not listed

      # posterior: Posterior.
      def initialize(posterior)
        @posterior = posterior
        @second = posterior.second
        @width = posterior.system.catalogue.model("set_beam")
      end

      # Array of Suspect, most probable first.
      def ranked
        listed, rest = all.partition { |each| each.probability > LEAST }
        listed.sort_by { |suspect| [-suspect.probability, suspect.id] } + rest.sort_by { |each| -each.probability }
      end

      # The likeliest Suspect that just this place cures, or nil. place: "circuit/place", "shared/..." or "none".
      def at(place)
        return none if place == Posterior::NONE_PLACE

        weights = @posterior.circuits[place[%r{\A[^/]+}]]
        here = weights ? singles_of(weights) + same_circuit(weights) : shared
        here.select { |each| each.place == place }.min_by { |each| [-each.probability, each.id] }
      end

      private

      def none
        Suspect.new(members: [], probability: @posterior.none, place: Posterior::NONE_PLACE).freeze
      end

      def all
        own = @posterior.circuits.values.flat_map { |weights| singles_of(weights) + same_circuit(weights) }
        [none, *own, *shared, *sets]
      end

      # Of each fault of a circuit: [circuit, fault, weight beside others, weight of what takes its module the power and
      # stands alone].
      def weighed(weights)
        (@weighed ||= {})[weights.circuit.id] ||= begin
          on = weights.atoms.by_fault
          gone, passing = power_lost(weights)
          weights.circuit.model.faults.each_with_index.map do |fault, k|
            [weights.circuit, fault, on[k] + (passing ? passing[k] : 0.0), gone ? gone[k] : 0.0]
          end
        end
      end

      # By fault of a supply circuit: its weight where it has taken the power; and where it took it now and then, or too
      # much of it, which weighs what those say that noticed. Either may be nil.
      def power_lost(weights)
        off, others = @posterior.power_scenarios(weights.circuit.id).partition { |each| each.part == :off }
        gone = off.map { |each| scaled(weights, :off, each.factor * @posterior.alone(each.touched)) }
        beside = others.map { |each| scaled(weights, each.part, each.factor / sound(each)) }
        [gone.first, beside.reduce { |sum, row| sum.zip(row).map(&:sum) }]
      end

      def scaled(weights, part, factor)
        weights.atoms.by_fault(part).map { |weight| weight * factor }
      end

      # The weight of the other circuits that a scenario touches, when they are sound.
      def sound(scenario)
        ids = scenario.touched - [scenario.circuit.id]
        [ids.reduce(1.0) { |product, id| product * @posterior.circuits.fetch(id).sound }, Float::MIN].max
      end

      def singles_of(weights)
        alone = @posterior.alone([weights.circuit.id])
        places = weights.circuit.place_names
        place_of = weights.circuit.model.place_of
        weighed(weights).each_with_index.map do |(circuit, fault, on, off), k|
          probability = ((on * alone) + off) / @posterior.total
          Suspect.new(members: [[circuit, fault]], probability: probability, place: places[place_of[k]]).freeze
        end
      end

      def shared
        @posterior
          .scenarios
          .select(&:cause)
          .map do |scenario|
            members = affected(scenario).map { |circuit, faults| [circuit, circuit.model.faults[faults.first]] }
            Suspect.new(
              members: members,
              cause: scenario.cause,
              probability: scenario.weight * @posterior.alone(scenario.touched) / @posterior.total,
              place: scenario.place
            ).freeze
          end
      end

      # Members that the evidence says are probably hit; all of them where it says so of none.
      def affected(scenario)
        reach = scenario.cause.reach
        hit =
          scenario.cause.members.select do |circuit, _|
            (reach * scenario.factor.fetch(circuit.id)) > (1 - reach) * @posterior.circuits.fetch(circuit.id).sound
          end
        hit.size > 1 ? hit : scenario.cause.members
      end

      def same_circuit(weights)
        weights.pairs.filter_map do |pair|
          members = pair.atoms.map { |i| [weights.circuit, weights.circuit.model.atoms[i].fault] }
          p = pair.weight * @posterior.alone([weights.circuit.id]) / @posterior.total
          suspect(members, p) if p > LEAST
        end
      end

      # Pairs from the strongest singles, triples from the strongest pairs.
      def sets
        each_fault = @posterior.circuits.values.flat_map { |weights| weighed(weights) }
        strong = each_fault.max_by(@width) { |circuit, _, on, _| on * @posterior.alone([circuit.id]) }
        pairs = strong.combination(2).reject { |a, b| a[0].id == b[0].id }.map { |pair| [pair, chance(pair)] }
        best = pairs.max_by(@width, &:last).map(&:first)
        (pairs + triples(best, strong)).filter_map do |set, chance|
          suspect(set.map { |circuit, fault, _, _| [circuit, fault] }, chance) if chance > LEAST
        end
      end

      def triples(pairs, strong)
        sets =
          pairs.flat_map { |pair| strong.reject { |each| shares_circuit?(pair, each) }.map { |each| pair + [each] } }
        sets.uniq { |set| set.map { |member| member[1].object_id }.sort }.map { |set| [set, chance(set)] }
      end

      def shares_circuit?(pair, each)
        pair.any? { |member| member[0].id == each[0].id }
      end

      # Probability of just this set: its members' weights, and all other circuits sound.
      def chance(set)
        weight = set.reduce(1.0) { |product, member| product * member[2] } * (@second**(set.size - 1))
        weight * @posterior.alone(set.map { |member| member[0].id }) / @posterior.total
      end

      def suspect(members, probability)
        sorted = members.sort_by { |circuit, fault| [@posterior.order.fetch(circuit.id), fault.id] }
        Suspect.new(
          members: sorted,
          probability: probability,
          place: sorted.map { |circuit, fault| "#{circuit.id}/#{fault.place}" }.uniq.join(" + ")
        ).freeze
      end
    end
  end
end
