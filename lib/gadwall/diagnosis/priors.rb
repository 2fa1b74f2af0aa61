# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Base rates of faults, shifted by what was said and done (data/codes/symptoms.yml).
    class Priors
      def initialize(system, body)
        @catalogue = system.catalogue
        @symptoms = body.symptoms.map { |symptom| @catalogue.symptoms.fetch(symptom.id) }
        @intermittent = intermittence
      end

      # The weight of 'nothing wrong now' on the scale of the base rates: the same share of vehicles, however many circuits
      # are looked at. all: sum of all priors of faults.
      def none(all)
        share = @catalogue.model("none_share")
        all * share / (1 - share)
      end

      # Prior of each atom at each duty: [duty index][atom index].
      def by_atom(circuit, duties)
        circuit.model.kept([:priors, @symptoms.map { |symptom| symptom["id"] }.sort]) { spread(circuit.model, duties) }
      end

      # Base rate of a shared cause, shifted like that of a fault.
      def shared_rate(cause)
        shifted(cause.rate, "#{cause.place.delete_prefix('shared/')}.#{cause.id.split('.').last}")
      end

      private

      # Vehicles come for a lamp: what can light none is seldom the reason (by atom). A joint of ten ohms in a sensor line
      # is a fault, but not the one that brought the vehicle in.
      def complaint(model, duty)
        unseen = @catalogue.model("unseen")
        model.monitors.raised(model.monitors.claims, duty).map { |chance| unseen + ((1 - unseen) * chance) }
      end

      # How much more (or less) likely than usual the fault comes and goes: said to, or a complaint that does not say so.
      def intermittence
        said = @symptoms.filter_map { |symptom| symptom["intermittent"] }
        return said.max if said.any?

        @symptoms.empty? ? 1.0 : @catalogue.symptoms.values.filter_map { |symptom| symptom["unsaid"] }.min
      end

      def spread(model, duties)
        rates = model.faults.map { |fault| rate(fault) }
        shares = model.faults.map { |fault| duty_shares(fault, duties.size) }
        duties.each_with_index.map do |duty, d|
          lit = complaint(model, duty)
          model.atoms.each_with_index.map { |atom, i| rates[atom.fault_index] * atom.weight * shares[atom.fault_index][d] * lit[i] }
        end
      end

      def rate(fault)
        shifted(fault.rate, "#{fault.place}.#{fault.mode}")
      end

      def shifted(base, key)
        @symptoms.reduce(base) do |rate, symptom|
          (symptom["factors"] || {}).reduce(rate) { |now, (pattern, factor)| File.fnmatch(pattern, key) ? now * factor : now }
        end
      end

      # Always there; or coming and going, evenly over the duties of the model.
      def duty_shares(fault, count)
        odds = fault.intermittent * @intermittent
        share = odds / (odds + 1 - fault.intermittent)
        [1 - share, *Array.new(count - 1, share / (count - 1))]
      end
    end
  end
end
