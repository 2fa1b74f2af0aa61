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
        @words = @unknowns.transform_values { {} }
        weights.each { |id, each| take_words(id, each) }
        settle
      end

      # The likeliest value of each unknown that some reading showed: {id => number of its point}.
      def point
        @point ||= beliefs.transform_values { |chances| chances.index(chances.max) }.freeze
      end

      # {id => [chance of each value]}.
      def beliefs
        @beliefs ||=
          @unknowns.to_h do |id, unknown|
            [id, normal(unknown.points.each_index.map { |k| unknown.points[k].last * all_words(id, k, nil) })]
          end
      end

      private

      # Once all have been heard.
      def settle
        @weights.each { |id, each| each.settle(each.grids.to_h { |grid| [grid, chances(id, grid)] }, point) }
      end

      # What one circuit's readings say of the values that they show: into @words[unknown][circuit id].
      def take_words(circuit_id, weights)
        grids = weights.grids.reject(&:plain?)
        return if grids.empty?

        priors = @priors[circuit_id]
        said =
          weights
            .model
            .cached([:words, weights.weighed_by, priors.object_id, @second]) do
              grids.flat_map { |grid| words_of(grid, beside(priors, weights, grid)) }.freeze
            end
        said.each { |id, word| @words[id][circuit_id] = word }
      end

      # [[id of an unknown, likelihood of each of its values], ...].
      def words_of(grid, beside)
        wholes = grid.points.map { |at| whole(at, beside) }
        peak = grid.points.map(&:log_sound).max
        grid.unknowns.map do |unknown|
          sums = Array.new(unknown.points.size, 0.0)
          grid.points.each_with_index do |at, k|
            others = at.point.reduce(1.0) { |p, (id, v)| id == unknown.id ? p : p * @unknowns[id].points[v].last }
            sums[at.point[unknown.id]] += others * Math.exp(at.log_sound - peak) * wholes[k]
          end
          [unknown.id, normal(sums).freeze]
        end
      end

      # Priors times what all other evidence says of each fault.
      def beside(priors, weights, grid)
        logs = weights.logs_beside(grid) { |other| prior_chances(other) }
        priors.each_with_index.map do |row, d|
          known = {}
          own = logs[d]
          row.each_with_index.map { |prior, i| prior * (known[own[i]] ||= Math.exp([own[i], Grid::FAR].min)) }
        end
      end

      # The circuit at one point, sound or faulty, against sound. Bare loops, as in Grid.
      def whole(at, beside)
        faulty = 0.0
        beside.each_with_index do |row, d|
          ratios = at.ratios[d]
          i = row.size
          faulty += row[i] * ratios[i] while (i -= 1) >= 0
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

      # Of a grid's points before any reading. A block tells a factor for each value.
      def prior_chances(grid)
        normal(
          grid.points.map do |at|
            at
              .point
              .reduce(1.0) do |product, (id, value)|
                product * @unknowns[id].points[value].last * (block_given? ? yield(id, value) : 1.0)
              end
          end
        )
      end

      # Of a grid's points, by what the other circuits say.
      def chances(circuit_id, grid)
        prior_chances(grid) { |id, value| all_words(id, value, circuit_id) }
      end
    end
  end
end
