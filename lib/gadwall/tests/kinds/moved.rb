# frozen_string_literal: true

module Gadwall
  module Tests
    module Kinds
      # Something is moved while a value is watched: a fault that comes and goes makes it jump.
      class Moved < Kind
        # As Kind#at_the_place?.
        def at_the_place?
          true
        end

        # As Kind#moves_something?.
        def moves_something?
          true
        end

        # As Kind#predict: a bad contact or a broken wire that is always there often reacts to being moved all the same.
        def predict(predictor, test, _condition, fault)
          quiet = test.record["otherwise"]
          return jump(predictor, test, quiet) unless fault && %w[series disconnected].include?(fault.effect)

          jump(predictor, test, [quiet, test.record.fetch("hard", 0.0) * chance(predictor.places, test, fault)].max)
        end

        # As Kind#caught.
        def caught(predictor, test, fault)
          jump(predictor, test, chance(predictor.places, test, fault))
        end

        # The chance (0..1) of seeing it move: when its own place is moved, a neighbour, all beyond or before a
        # connector, or something else. places: of the harness, in order.
        def chance(places, test, fault)
          moved = places.index(test.place)
          at = places.index(fault.place)
          case test.record["span"]
          when "beyond"
            test.record[at > moved && fault.place != "ring" ? "here" : "elsewhere"]
          when "before"
            test.record[at < moved ? "here" : "elsewhere"]
          else
            test.record[%w[here near].fetch((moved - at).abs, "elsewhere")]
          end
        end

        private

        def jump(predictor, test, chance)
          predictor.cached([test.id, chance]) do
            Prediction::Choice.new(test.outcomes.keys.last => chance, "good" => 1 - chance)
          end
        end
      end
    end
  end
end
