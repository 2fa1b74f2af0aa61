# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # A category of pulses as a test can tell it.
      module Category
        # name: "even", "one_gap", ...; misses are spread over the other outcomes. Returns a Prediction::Choice.
        def self.prediction(predictor, test, name)
          name = (test.record["blind"] || {}).fetch(name, name)
          name = "even" unless test.outcomes.key?(name)
          hit = test.record["hit"]
          miss = (1 - hit) / (test.outcomes.size - 1)
          predictor.cached([test.id, name]) do
            Prediction::Choice.new(test.outcomes.to_h { |outcome, _| [outcome, outcome == name ? hit : miss] })
          end
        end
      end
    end
  end
end
