# frozen_string_literal: true

module Gadwall
  module Tests
    # Severity is continuous, its grid is not: a bad connector of 95 kohm lies between two points of it. So each hump of
    # a prediction is widened to reach half-way to its neighbours in severity, as evenly spread over its cell (standard
    # deviation of a uniform spread: width / sqrt 12). Where outcomes change from one point to the next, the change lies
    # anywhere between them, and on average an eighth of each one's cell is beyond it.
    module SeverityBlur
      ROOT_12 = Math.sqrt(12)
      BEYOND = 0.125

      # predictions: Prediction::Number of one fault, in order of severity. Returns as many.
      def self.widen(predictions, scale)
        return predictions if predictions.size < 2

        predictions.each_with_index.map do |prediction, i|
          before = predictions[[i - 1, 0].max]
          after = predictions[[i + 1, predictions.size - 1].min]
          cells = after.equal?(before) || [0, predictions.size - 1].include?(i) ? 1.0 : 2.0
          Prediction::Number.new(widened(prediction, before, after, cells), scale)
        end
      end

      # One prediction widened by what it would be one step of severity further. beside: Array of Prediction::Number,
      # one for each of the faults that are there together.
      def self.widen_by(prediction, beside, scale)
        cells = beside.map { |each| each.humps.map(&:first) }
        humps =
          prediction.humps.each_with_index.map do |(mean, sigma, weight), k|
            spread = cells.sum { |means| ((means.fetch(k, mean) - mean) / ROOT_12)**2 }
            [mean, Math.sqrt((sigma**2) + spread), weight]
          end
        Prediction::Number.new(humps, scale)
      end

      # predictions: Prediction::Choice of one fault, in order of severity. Returns as many.
      def self.mix(predictions)
        known = {}
        predictions.each_with_index.map do |prediction, i|
          beside = [predictions[[i - 1, 0].max], predictions[[i + 1, predictions.size - 1].min]]
          next prediction if beside.all? { |each| each.equal?(prediction) }

          known[[prediction, *beside].map(&:object_id)] ||= mixed(prediction, beside)
        end
      end

      def self.mixed(prediction, beside)
        outcomes = [prediction, *beside].flat_map { |each| each.chances.keys }.uniq
        Prediction::Choice.new(
          outcomes.to_h do |outcome|
            far = beside.sum { |each| BEYOND * each.density(outcome) }
            [outcome, ((1 - (2 * BEYOND)) * prediction.density(outcome)) + far]
          end
        )
      end

      def self.widened(prediction, before, after, cells)
        prediction.humps.each_with_index.map do |(mean, sigma, weight), k|
          cell = (after.humps[k][0] - before.humps[k][0]).abs / cells
          [mean, Math.sqrt((sigma**2) + ((cell / ROOT_12)**2)), weight]
        end
      end
      private_class_method :widened, :mixed
    end
  end
end
