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
          def none?
            members.empty?
          end

          def circuit
            members.first&.first
          end

          def fault
            members.first&.last
          end

          def repair
            cause ? cause.repair : fault&.repair
          end

          def id
            return "none" if none?

            cause ? cause.id : members.map { |circuit, fault| "#{circuit.id}.#{fault.id}" }.join(" + ")
          end

          def text
            return "nothing wrong now" if none?

            if cause
              "#{cause.name} (#{members.map { |circuit, _| circuit.title }.join(", ")})"
            else
              members.map { |circuit, fault| "#{circuit.title}: #{fault.name}" }.join("; and ")
            end
          end

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
        all = [none] + singles + shared + same_circuit + sets
        all.sort_by { |suspect| [-suspect.probability, suspect.id] }
      end

      private

      def none
        Suspect.new(members: [], probability: @posterior.none, place: Posterior::NONE_PLACE).freeze
      end

      # weight: of each fault alone; a supply's fault with what its dead module makes of the rest.
      def weighed
        @weighed ||=
          @posterior.circuits.values.flat_map do |weights|
            scenario = @posterior.power_scenario(weights.circuit.id)
            on = weights.by_fault
            off = scenario ? weights.by_fault(:off) : nil
            weights.circuit.model.faults.each_with_index.map do |fault, k|
              [weights.circuit, fault, on[k], off ? off[k] * scenario.factor : 0.0]
            end
          end
      end

      def singles
        weighed.map { |circuit, fault, on, off| suspect([[circuit, fault]], (on + off) / @posterior.total) }
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
              probability: scenario.weight / @posterior.total,
              place: scenario.place
            ).freeze
          end
      end

      # Members that the evidence says are probably hit; all of them where it says so of none.
      def affected(scenario)
        reach = scenario.cause.reach
        hit = scenario.cause.members.select { |circuit, _| (reach * scenario.factor.fetch(circuit.id)) > 1 - reach }
        hit.size > 1 ? hit : scenario.cause.members
      end

      def same_circuit
        @posterior.circuits.values.flat_map do |weights|
          weights.pairs.filter_map do |pair|
            members = pair.atoms.map { |i| [weights.circuit, weights.circuit.model.atoms[i].fault] }
            p = pair.weight / @posterior.total
            suspect(members, p) if p > LEAST
          end
        end
      end

      # Pairs from the strongest singles, triples from the strongest pairs.
      def sets
        strong = weighed.max_by(@width) { |_, _, on, _| on }
        pairs =
          strong.combination(2).select { |a, b| a[0].id != b[0].id }.map { |a, b| [[a, b], a[2] * b[2] * @second] }
        best = pairs.max_by(@width, &:last)
        triples =
          best
            .flat_map do |(pair, weight)|
              strong
                .reject { |each| pair.any? { |member| member[0].id == each[0].id } }
                .map { |each| [pair + [each], weight * each[2] * @second] }
            end
            .uniq { |set, _| set.map { |member| member[1].object_id }.sort }
        (pairs + triples).filter_map do |set, weight|
          p = weight / @posterior.total
          suspect(set.map { |circuit, fault, _, _| [circuit, fault] }, p) if p > LEAST
        end
      end

      def suspect(members, probability)
        sorted =
          if members.size == 1
            members
          else
            members.sort_by { |circuit, fault| [@posterior.order.fetch(circuit.id), fault.id] }
          end
        Suspect.new(
          members: sorted,
          probability: probability,
          place: sorted.map { |circuit, fault| "#{circuit.id}/#{fault.place}" }.uniq.join(" + ")
        ).freeze
      end
    end
  end
end
