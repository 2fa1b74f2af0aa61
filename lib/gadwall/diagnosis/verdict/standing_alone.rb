# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Does the leader stand without any one reading? A verdict that hangs on a single measurement falls with a single
    # slip of the hand. Each reading of the leader's circuit is left out in turn, and the rest weighed again (in the
    # manner of leave-one-out; handbook: robust statistics, from memory). What is left must lead by its readings: base
    # rates are nearly levelled out there, or the most frequent part would stand on a single reading.
    #
    # What is exempt: a reading taken twice alike, and a look that is hardly ever reported when it is not so ("no ring
    # there", "wire cut through", "level at the mark").
    class StandingAlone
      SURE_LOOK = 0.0035 # chance of a false report from which a look settles nothing by itself; from memory

      LEVELLED = 0.4 # how far base rates are levelled out, 0 as they are to 1 all alike; from memory, by the same runs
      STILL_LED = 0.4 # share that the leader must keep of what is left; from memory, by the runs of docs/engine.md

      MODULE_LED = 0.6 # and so much a control module, which is not condemned for a slip; from memory
      MODULE = "renew_module" # repair of what is not condemned lightly
      FITS = 3.0 # natural logarithm: a fault that much less likely than the best of its place is ruled out; from memory
      NOTHING = -40.0 # natural logarithm: a share that no sum feels
      LEAD = 1.2 # how much likelier than the next place it must still be; from memory, by the same runs

      # posterior: Posterior; suspect: Suspects::Suspect with one fault.
      def initialize(posterior, suspect)
        @posterior = posterior
        @weights = posterior.circuits.fetch(suspect.circuit.id)
        @circuit = suspect.circuit
        @still_led = suspect.repair == MODULE ? MODULE_LED : STILL_LED
        @part = part_of(suspect)
      end

      APART_LEVELLED = 0.65
      SET_APART = 0.5 # share of its circuit that it must have, base rates so far levelled: more than all other places

      # Is it more than all other places of its circuit together by what was seen, base rates levelled so far?
      def separate?
        logs = @weights.evidence.logs
        sums = levelled(logs, [0.0, *logs.map(&:max)].max, APART_LEVELLED)
        sums.values_at(*@part).sum > SET_APART * sums.sum
      end

      # The readings that the leader hangs on: Array of Observations::Observation, [] where it stands without any one.
      def decisive
        alike = @weights.evidence.observations.map { |each| each.test.id }.tally
        @weights.evidence.observations.select do |each|
          alike.fetch(each.test.id) == 1 && !sure_look?(each) && !leads_without?(each)
        end
      end

      private

      def sure_look?(observation)
        return false unless observation.test.kind == "table"

        @posterior.table(@circuit, observation.test).least_density(observation.result) <= SURE_LOOK
      end

      def leads_without?(observation)
        logs = @weights.evidence.logs_without(observation, @posterior.unknowns.point)
        peak = [0.0, *logs.map(&:max)].max
        sums = levelled(logs, peak, LEVELLED)
        sound = (@posterior.none_prior**(1 - LEVELLED)) * Math.exp(-peak)
        rival = sums.each_with_index.filter_map { |sum, k| sum unless @part.include?(k) }.max || 0.0
        own = sums.values_at(*@part).sum
        own > LEAD * rival && own > @still_led * (sums.sum + sound)
      end

      # Indices of the places of the circuit that are one part with the suspect's.
      def part_of(suspect)
        alike = @posterior.bodies.alike("#{@circuit.id}/#{suspect.fault.place}")
        names = @circuit.model.places
        names.each_index.select { |k| alike.include?("#{@circuit.id}/#{names[k]}") }
      end

      # By place: what the evidence says of it, its base rate levelled out by that share. Only those of its faults count
      # in the base rate that the evidence leaves (FITS): a motor that jams is rare, however often motors fail.
      def levelled(logs, peak, share)
        best = best_by_place(logs)
        sums = Array.new(best.size, 0.0)
        rates = Array.new(best.size, 0.0)
        logs.each_with_index { |row, d| add(row, @weights.priors[d], peak, best, sums, rates) }
        sums.each_with_index.map { |sum, k| rates[k].positive? ? sum / (rates[k]**share) : 0.0 }
      end

      # Adds the atoms of one presence to sums and rates by place. Bare loops: they run for every reading.
      def add(logs, priors, peak, best, sums, rates)
        place_of = @circuit.model.place_of_atom
        i = logs.size
        while (i -= 1) >= 0
          place = place_of[i]
          log = logs[i]
          sums[place] += priors[i] * Math.exp(log - peak) if log - peak > NOTHING
          rates[place] += priors[i] if log > best[place] - FITS
        end
      end

      def best_by_place(logs)
        best = Array.new(@circuit.model.places.size, -Float::INFINITY)
        place_of = @circuit.model.place_of_atom
        logs.each do |row|
          i = row.size
          while (i -= 1) >= 0
            place = place_of[i]
            best[place] = row[i] if row[i] > best[place]
          end
        end
        best
      end
    end
  end
end
