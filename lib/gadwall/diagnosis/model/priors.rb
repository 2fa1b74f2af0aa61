# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Base rates of faults, shifted by what was said and done (data/codes/symptoms.yml), by how the vehicle is built
    # (data/vehicle/circumstances.yml), and by the shop's own closed cases.
    #
    # Closed cases: the base rates of a kind of circuit count as so many cases (`case_weight` of the model) and the
    # shop's own are added to them (Dirichlet counts; handbook: Bayesian statistics, from memory):
    #   rate' = R (K rate/R + n) / (K + N), R all rates of that kind, n cases of this fault among N.
    class Priors
      def initialize(system, body)
        @system = system
        @catalogue = system.catalogue
        @symptoms = body.symptoms.map { |symptom| @catalogue.symptoms.fetch(symptom.id) }
        @closed_case_counts = body.closed_case_counts
        @lamps = body.lamps
        @coded = coded(body)
        @presence = body.presence
        @intermittent = intermittence
        @cured = history_only?(body)
        @shown = shown?(body)
        @share = none_share(body)
      end

      # The weight of 'nothing wrong now' on the scale of the base rates: the same share of vehicles, however many
      # circuits are looked at. all: sum of all priors of faults.
      def none(all)
        all * @share / (1 - @share) * (@cured ? @catalogue.model("cured") : 1.0)
      end

      # Was it said that the fault comes and goes? Then an old code is no sign that it was cured.
      def said_fleeting?
        @presence == "fleeting" || @symptoms.any? { |symptom| symptom["intermittent"] } ||
          @lamps.any? { |lamp| lamp.lit && lamp.time == "now_and_then" }
      end

      # Codes stand, and all of them are old: what set them may have been cured before the vehicle came in.
      def history_only?(body)
        codes = body.scans.flat_map(&:codes).select(&:set?)
        codes.any? && codes.all? { |code| code.status == "history" } && !said_fleeting?
      end

      # Prior of each atom at each presence: [presence index][atom index].
      def by_atom(circuit, presences)
        factors = factors_for(circuit)
        cases = @closed_case_counts.fetch(circuit.harness.id, NO_CASES)
        circuit.model.cached([:priors, factors, said(circuit), cases]) { spread(circuit, presences, factors, cases) }
      end

      # Base rate of a shared cause, shifted like that of a fault.
      def shared_rate(cause)
        factors = @symptoms.flat_map { |symptom| (symptom["factors"] || {}).to_a }
        cause.rate * factor("#{cause.place.delete_prefix("shared/")}.#{cause.id.split(".").last}", factors)
      end

      # How well a shared cause fits the lamps that were noted, 0..1: each lamp is lit by any of its members (noisy-OR;
      # Pearl 1988, from memory).
      def lamp_fit(cause)
        weights =
          cause.members.map do |circuit, faults|
            [LampWeights.new(circuit, @lamps, @catalogue, elsewhere(circuit)), circuit.model.atoms_of(faults)]
          end
        @lamps.reduce(1.0) { |fit, lamp| fit * LampWeights.of_members(weights, lamp) }
      end

      private

      NO_CASES = {}.freeze

      # Does a code, a lamp or a silent module say that something is wrong, or was nothing read yet?
      def shown?(body)
        return true if body.scans.empty? || @lamps.any?(&:lit)

        body.scans.any? do |scan|
          scan.codes.any?(&:set?) || scan.modules.value?(false) || scan.unnamed_missing.positive?
        end
      end

      # Of vehicles that come in with as much to show for it, so many have nothing wrong now: a code or a lamp is there,
      # or somebody complains of what he felt, or a scan was read and there is nothing at all.
      def none_share(body)
        return @catalogue.model("none_share") if @shown

        @catalogue.model(felt?(body) ? "none_share_felt" : "none_share_nothing")
      end

      # Did somebody complain, in words or by what was seen first of all?
      def felt?(body)
        return true if @symptoms.any? { |symptom| symptom["group"] == "complaint" }

        first = body.observations.first
        !first.nil? && !first.test.behaviour.looks_at_warnings? && !Coverage.may_be_normal?(first)
      end

      # [[pattern, factor], ...] of what was said and of how the vehicle is built, as far as they speak of this circuit.
      def factors_for(circuit)
        said = @symptoms.select { |symptom| symptom["families"].nil? || symptom["families"].include?(circuit.family) }
        built =
          @catalogue.circumstances.select do |row|
            File.fnmatch(row["circuits"], circuit.id) &&
              row["when"].all? { |field, value| @system.sheet.answers[field] == value }
          end
        (said + built).flat_map { |row| (row["factors"] || {}).to_a }.sort
      end

      # What of the complaint the priors of a circuit depend on.
      def said(circuit)
        (@said ||= {})[circuit.id] ||= begin
          shares = @lamps.map { |lamp| Vehicle::Lamps.chance(@catalogue, lamp.id, circuit) }
          lamps = @lamps.map { |lamp| [lamp.id, lamp.lit, lamp.time] }
          [@intermittent, @presence, @shown, lamps, shares, elsewhere(circuit)]
        end
      end

      # From memory: a circuit with a code is at fault so often, by the status of the code.
      AT_FAULT = { "current" => 0.85, "history" => 0.3 }.freeze

      # {circuit id => how surely its codes say that it is at fault}.
      def coded(body)
        codes = body.scans.flat_map(&:codes).select(&:set?).group_by(&:circuit_id)
        chances = codes.transform_values { |list| list.map { |code| AT_FAULT.fetch(code.status, 0.3) }.max }
        chances.slice(*@system.circuits.map(&:id))
      end

      # Of a circuit with a code: {id of a lit lamp => chance that another circuit with a code lights it}.
      def elsewhere(circuit)
        return NO_CASES if @coded.size < 2 || !@coded.key?(circuit.id)

        (@elsewhere ||= {})[circuit.id] ||= @lamps
          .select(&:lit)
          .to_h { |lamp| [lamp.id, (1 - dark_beside(circuit, lamp.id)).round(3)] }
      end

      # The chance that no other circuit with a code lights the lamp.
      def dark_beside(circuit, lamp_id)
        @coded
          .except(circuit.id)
          .reduce(1.0) do |product, (id, chance)|
            product * (1 - (chance * Vehicle::Lamps.chance(@catalogue, lamp_id, @system.circuit_named(id))))
          end
      end

      # Vehicles come for a lamp: what can light none is seldom the reason (by atom). A connector of ten ohms in a
      # sensor line is a fault, but not the one that brought the vehicle in. Where the lamps were noted, each fault is
      # held to them; a vehicle without lamp and code came for something else.
      def complaint(circuit, presence)
        model = circuit.model
        seen = model.monitors.raised(model.monitors.claims, presence)
        gone = @presence == "absent" && presence == 1.0 ? GONE : 0.0
        unseen = @lamps.any?(&:lit) || !@shown ? 1.0 : @catalogue.model("unseen")
        base = seen.map { |chance| (unseen + ((1 - unseen) * chance)) * (1 - (gone * chance)) }
        return base if @lamps.empty?

        LampWeights
          .new(circuit, @lamps, @catalogue, elsewhere(circuit))
          .by_atom(presence)
          .each_with_index
          .map { |fit, i| fit * base[i] }
      end

      GONE = 0.9 # from memory: what lights a lamp all the time is not there while the lamp is said to be out

      # How much more (or less) likely than usual the fault comes and goes: said to, or a complaint that does not say
      # so.
      def intermittence
        said = @symptoms.filter_map { |symptom| symptom["intermittent"] }
        said << FLEETING if @presence == "fleeting" || @lamps.any? { |lamp| lamp.time == "now_and_then" }
        return said.max if said.any?

        complaints = @symptoms.select { |symptom| symptom["group"] == "complaint" }
        complaints.empty? ? 1.0 : @catalogue.symptoms.values.filter_map { |symptom| symptom["unsaid"] }.min
      end

      FLEETING = 10 # as comes_and_goes of data/codes/symptoms.yml

      def spread(circuit, presences, factors, cases)
        rates = counted(circuit.model, cases)
        fault_of = circuit.model.fault_of
        shape(circuit, presences, factors).map do |row|
          i = -1
          row.map { |share| rates[fault_of[i += 1]] * share }
        end
      end

      # What each atom's prior is for a fault of rate 1: [presence index][atom index].
      def shape(circuit, presences, factors)
        model = circuit.model
        model.cached([:prior_shape, factors, said(circuit)]) do
          told = model.faults.map { |fault| factor("#{fault.place}.#{fault.mode}", factors) }
          shares = model.faults.map { |fault| presence_shares(fault, presences.size) }
          presences.each_with_index.map do |presence, d|
            lit = complaint(circuit, presence)
            model
              .atoms
              .each_with_index
              .map { |atom, i| told[atom.fault_index] * atom.weight * shares[atom.fault_index][d] * lit[i] }
              .freeze
          end
        end
      end

      # Base rates with the shop's own cases of this kind of circuit counted in.
      def counted(model, cases)
        rates = model.faults.map(&:rate)
        return rates if cases.empty?

        weight = @catalogue.model("case_weight")
        all = rates.sum
        known = model.faults.map { |fault| cases.fetch(fault.id, 0) }
        rates.zip(known).map { |rate, count| all * ((weight * rate / all) + count) / (weight + known.sum) }
      end

      def factor(key, factors)
        factors.reduce(1.0) { |product, (pattern, factor)| File.fnmatch(pattern, key) ? product * factor : product }
      end

      # Always there; or coming and going, evenly over the presences of the model.
      def presence_shares(fault, count)
        odds = fault.intermittent * @intermittent
        share = odds / (odds + 1 - fault.intermittent)
        [1 - share, *Array.new(count - 1, share / (count - 1))]
      end
    end
  end
end
