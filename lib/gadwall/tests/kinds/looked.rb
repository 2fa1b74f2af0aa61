# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # A look at a place: a table says how often each fault shows each outcome.
      class Looked < Kind
        # As Kind#at_the_place?.
        def at_the_place?
          true
        end

        # As Kind#predict: the first row that speaks of the fault counts ("*.wet" speaks of water anywhere).
        def predict(predictor, test, _condition, fault)
          row = fault && row_of(test, fault)
          predictor.cached([test.id, row && row["fault"]]) { choice(test, row ? row["outcome"] : {}) }
        end

        private

        def row_of(test, fault)
          test.record["rows"].find { |row| fault.named?(row["fault"]) }
        end

        def choice(test, seen)
          left = 1 - seen.values.sum
          chances = test.record["otherwise"].transform_values { |chance| chance * left }.merge(seen)
          Prediction::Choice.new(chances.merge("good" => 1 - chances.values.sum))
        end
      end
    end
  end
end
