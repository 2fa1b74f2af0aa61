# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What the readings of all circuits say of the values that no sheet states: the battery just now, what a module
    # feeds to its sensors. One value holds for all circuits that hang on it, so what is read at one wheel tells what
    # to expect at the other.
    #
    # For each circuit the others' word is taken first (the product of their likelihoods), then its own: belief
    # propagation on a tree of one unknown and its circuits (Pearl 1988; from memory), exact where no two circuits share
    # two unknowns.
    class Unknowns
      # weights: {circuit id => EvidenceWeights}; priors: {circuit id => by presence and atom}; second: how much rarer a
      # further fault is. Settles every EvidenceWeights.
      def initialize(weights, priors, second)
        @weights = weights
        @priors = priors
        @second = second
        @unknowns = weights.values.flat_map(&:shown_unknowns).uniq(&:id).to_h { |each| [each.id, each] }
        @words = @unknowns.to_h { |id, _| [id, words(id)] }
        weights.each { |id, each| each.settle(chances(id, each), point) }
      end

      # The likeliest value of each unknown that some reading showed: {id => number of its point}.
      def point
        @point ||=
          @unknowns
            .to_h do |id, unknown|
              beliefs = posterior(id, unknown)
              [id, beliefs.index(beliefs.max)]
            end
            .freeze
      end

      # {id => [chance of each value]}.
      def beliefs
        @unknowns.to_h { |id, unknown| [id, posterior(id, unknown)] }
      end

      private

      def posterior(id, unknown)
        normal(unknown.points.each_index.map { |k| unknown.points[k].last * all_words(id, k, nil) })
      end

      # {circuit id => likelihood of its readings at each value}.
      def words(id)
        @weights
          .select { |_, each| each.shown_unknowns.any? { |unknown| unknown.id == id } }
          .to_h { |circuit_id, each| [circuit_id, word(circuit_id, each, id)] }
      end

      # Of one circuit, its other unknowns summed out.
      def word(circuit_id, weights, id)
        peak = weights.points.map(&:log_sound).max
        sums = Array.new(@unknowns[id].points.size, 0.0)
        weights.points.each do |at|
          others = at.point.except(id).reduce(1.0) { |product, (other, k)| product * @unknowns[other].points[k].last }
          sums[at.point[id]] += others * Math.exp(at.log_sound - peak) * whole(circuit_id, at)
        end
        normal(sums)
      end

      # The circuit at one point, sound or faulty, against sound.
      def whole(circuit_id, at)
        faulty = 0.0
        @priors[circuit_id].each_with_index do |row, d|
          logs = at.logs[d]
          known = {}
          row.each_with_index { |prior, i| faulty += prior * (known[logs[i]] ||= Math.exp(logs[i])) }
        end
        1 + (@second * faulty)
      end

      def normal(values)
        sum = values.sum
        sum.positive? ? values.map { |value| value / sum } : values.map { 1.0 / values.size }
      end

      # The product of what all circuits but one say of a value.
      def all_words(id, value, without)
        @words[id].reduce(1.0) { |product, (circuit_id, word)| circuit_id == without ? product : product * word[value] }
      end

      # Of a circuit's points, by what the others say.
      def chances(circuit_id, weights)
        normal(
          weights.points.map do |at|
            at.point.reduce(1.0) do |product, (id, value)|
              product * @unknowns[id].points[value].last * all_words(id, value, circuit_id)
            end
          end
        )
      end
    end
  end
end
