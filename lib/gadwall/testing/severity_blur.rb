# frozen_string_literal: true

module Gadwall
  module Testing
    # Severity is continuous, its grid is not: a bad connector of 95 kohm lies between two points of it. So each hump of
    # a prediction is widened to reach half-way to its neighbours in severity, as evenly spread over its cell (standard
    # deviation of a uniform spread: width / sqrt 12).
    module SeverityBlur
      ROOT_12 = Math.sqrt(12)

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

      def self.widened(prediction, before, after, cells)
        prediction.humps.each_with_index.map do |(mean, sigma, weight), k|
          cell = (after.humps[k][0] - before.humps[k][0]).abs / cells
          [mean, Math.sqrt((sigma**2) + ((cell / ROOT_12)**2)), weight]
        end
      end
      private_class_method :widened
    end
  end
end
