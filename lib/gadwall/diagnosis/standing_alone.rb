# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Does the leader stand without any one reading? A verdict that hangs on a single measurement falls with a single
    # slip of the hand. Each reading of the leader's circuit is left out in turn, and the rest weighed again (in the
    # manner of leave-one-out; handbook: robust statistics, from memory). What is left must lead by its readings: base
    # rates are nearly levelled out there, or the most frequent part would stand on a single reading.
    #
    # What is exempt: a reading taken twice alike, and a look that is hardly ever reported when it is not so ("no ring
    # there", "wire cut through").
    class StandingAlone
      SURE_LOOK = 0.006 # chance of a false report from which a look settles nothing by itself; from memory

      LEVELLED = 0.75 # how far base rates are levelled out, 0 as they are to 1 all alike; from memory, by the same runs
      STILL_LED = 0.36 # share that the leader must keep of what is left; from memory, by the runs of docs/engine.md

      # posterior: Posterior; suspect: Suspects::Suspect with one fault.
      def initialize(posterior, suspect)
        @posterior = posterior
        @weights = posterior.circuits.fetch(suspect.circuit.id)
        @circuit = suspect.circuit
        @place = @circuit.model.places.index(suspect.fault.place)
      end

      # The readings that the leader hangs on: Array of Evidence::Observation, [] where it stands without any one.
      def decisive
        alike = @weights.evidence.observations.map { |each| each.test.id }.tally
        @weights.evidence.observations.select do |each|
          alike.fetch(each.test.id) == 1 && !sure_look?(each) && !leads_without?(each)
        end
      end

      private

      def sure_look?(observation)
        return false unless observation.test.kind == "table"

        @posterior.table(@circuit, observation.test).normal_density(observation.result) <= SURE_LOOK
      end

      def leads_without?(observation)
        logs = @weights.evidence.logs_without(observation, @posterior.unknowns.point)
        sums = Array.new(@circuit.model.places.size, 0.0)
        peak = [0.0, *logs.map(&:max)].max
        logs.each_with_index { |row, d| add(sums, row, @weights.priors[d], peak) }
        sums = sums.each_with_index.map { |sum, k| sum / (base_rates[k]**LEVELLED) }
        sound = (@posterior.none_prior**(1 - LEVELLED)) * Math.exp(-peak)
        sums.each_index.max_by { |k| sums[k] } == @place && sums[@place] > STILL_LED * (sums.sum + sound)
      end

      # By place: the prior of all its faults.
      def base_rates
        @base_rates ||=
          Array
            .new(@circuit.model.places.size, 0.0)
            .tap do |sums|
              @weights.priors.each { |row| row.each_with_index { |prior, i| sums[place_of_atom(i)] += prior } }
            end
      end

      def place_of_atom(atom)
        @circuit.model.place_of[@circuit.model.fault_of[atom]]
      end

      def add(sums, logs, priors, peak)
        place_of = @circuit.model.place_of
        fault_of = @circuit.model.fault_of
        known = {}
        logs.each_with_index do |log, i|
          sums[place_of[fault_of[i]]] += priors[i] * (known[log] ||= Math.exp(log - peak))
        end
      end
    end
  end
end
