# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What each single reading said: bits for the leading place against its strongest rival (weight of evidence, Good
    # 1950; from memory), and whether the reading fits nothing that still stands.
    class Weight
      # bits: above 0 speaks for the leader; surprise: chance that the measurement itself went wrong, given all else.
      Row = Struct.new(:observation, :bits, :surprise, keyword_init: true)

      DOUBTED = 0.5
      LEAST = 1e-5 # beliefs below this change no sentence

      def initialize(posterior, body)
        @posterior = posterior
        @share = posterior.system.catalogue.model("botched")
        @body = body
      end

      # One Row for each observation, in log order.
      def rows
        lead, rival = @posterior.places.keys.first(2)
        @body.observations.map do |observation|
          for_lead = density(observation, lead)
          against = density(observation, rival)
          Row.new(observation: observation, bits: Math.log2(for_lead / against), surprise: surprise(observation)).freeze
        end
      end

      private

      # Mean density of the result over what is still believed of a place; of anywhere else, as a sound line gives it.
      def density(observation, place)
        sum = 0.0
        mass = 0.0
        each_belief(observation) do |at, probability, density|
          next unless at == place

          sum += probability * density
          mass += probability
        end
        mass.positive? ? sum / mass : mixed(observation, densities(observation).sound)
      end

      # Chance that the reading was botched: the share that the 'anything' part of the mixture has in explaining it.
      def surprise(observation)
        slack = @share * Botched.density(observation)
        total = 0.0
        mass = 0.0
        each_belief(observation) do |_, probability, density|
          total += probability * slack / density
          mass += probability
        end
        total + ((1 - mass) * slack / mixed(observation, densities(observation).sound))
      end

      # Yields place, probability and mixed density for every atom and duty of the observation's circuit.
      def each_belief(observation)
        circuit = observation.circuit
        by_duty = densities(observation).by_duty
        @posterior.atom_probabilities(circuit).each_with_index do |row, d|
          row.each_with_index do |probability, i|
            next if probability < LEAST

            yield "#{circuit.id}/#{circuit.model.atoms[i].fault.place}", probability, mixed(observation, by_duty[d][i])
          end
        end
      end

      def densities(observation)
        observation.circuit.model.table(observation.test).densities(observation.result, @posterior.duties)
      end

      def mixed(observation, density)
        ((1 - @share) * density) + (@share * Botched.density(observation))
      end
    end
  end
end
