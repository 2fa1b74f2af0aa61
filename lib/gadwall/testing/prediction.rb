# frozen_string_literal: true

module Gadwall
  module Testing
    # What a test would show, as a distribution. Two kinds, one face: `density(observation)` and `bins(scheme)`.
    module Prediction
      # A number: a mixture of normal humps on the scale of the test. humps: [[mean, sigma, weight], ...].
      class Number
        attr_reader :humps

        def initialize(humps, scale)
          @humps = humps
          @scale = scale
          freeze
        end

        # Probability density of a reading on the test's scale; for over limit, its probability.
        def density(reading)
          if reading.over_limit?
            return humps.sum { |mean, sigma, weight| weight * @scale.over_limit_chance(mean, sigma) }
          end

          y = @scale.of(reading.value)
          humps.sum do |mean, sigma, weight|
            weight * hump(y, mean, sigma) * (1 - @scale.over_limit_chance(mean, sigma))
          end
        end

        # Chances of the regions of a Regions scheme, over limit last where the scale has one.
        def bins(regions)
          chances = Array.new(regions.count, 0.0)
          humps.each { |mean, sigma, weight| regions.share(mean, sigma, weight, chances) }
          chances
        end

        private

        def hump(y, mean, sigma)
          z = (y - mean) / sigma
          Math.exp(-0.5 * z * z) / (sigma * 2.5066282746310002)
        end
      end

      # One of several outcomes: {outcome => chance}, summing to 1.
      class Choice
        attr_reader :chances

        def initialize(chances)
          @chances = chances.freeze
          freeze
        end

        def density(outcome)
          chances.fetch(outcome, 0.0)
        end

        def bins(outcomes)
          outcomes.map { |outcome| chances.fetch(outcome, 0.0) }
        end
      end
    end
  end
end
