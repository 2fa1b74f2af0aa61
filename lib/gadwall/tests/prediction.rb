# frozen_string_literal: true

module Gadwall
  module Tests
    # What a test would show, as a distribution. Two kinds, one face: `density(observation)` and `bins(scheme)`.
    module Prediction
      # A number: a mixture of normal humps on the scale of the test. humps: [[mean, sigma, weight], ...].
      class Number
        # mean, sigma, weight of each hump, in one row.
        attr_reader :row

        # row: as `row` gives it.
        def self.of_row(row, scale)
          new(row.each_slice(3).to_a, scale)
        end

        # Density of a mixture that stands in a packed row. row: Array of Float; from, upto: its part of it, upto not
        # included; y: reading on the scale, nil for over limit; blur: one sigma by which it was told roughly. Returns a
        # density per unit of the scale; of over limit a chance.
        def self.density(row, from, upto, scale, y, blur = 0.0)
          sum = 0.0
          while from < upto
            mean = row[from]
            sigma = row[from + 1]
            sigma = Math.sqrt((sigma * sigma) + (blur * blur)) if blur.positive?
            weight = row[from + 2]
            over = scale.over_limit_chance(mean, sigma)
            sum += y ? weight * hump(y, mean, sigma) * (1 - over) : weight * over
            from += 3
          end
          sum
        end

        # The normal density at y.
        def self.hump(y, mean, sigma)
          z = (y - mean) / sigma
          Math.exp(-0.5 * z * z) / (sigma * 2.5066282746310002)
        end
        private_class_method :hump

        def initialize(humps, scale)
          @row = humps.flatten.freeze
          @scale = scale
          freeze
        end

        # [[mean, sigma, weight], ...] on the scale of the test.
        def humps
          @row.each_slice(3).to_a
        end

        # Mean of the first hump.
        def mean
          @row[0]
        end

        # Probability density of a reading on the test's scale; for over limit, its probability.
        def density(reading)
          y = reading.over_limit? ? nil : @scale.of(reading.value)
          Number.density(@row, 0, @row.size, @scale, y, y ? @scale.told_roughly(reading.value) : 0.0)
        end

        # Yields mean, sigma and weight of each hump.
        def each_hump
          n = 0
          while n < @row.size
            yield @row[n], @row[n + 1], @row[n + 2]
            n += 3
          end
        end

        # Chances of the regions of a Regions scheme, over limit last where the scale has one.
        def bins(regions)
          chances = Array.new(regions.count, 0.0)
          each_hump { |mean, sigma, weight| regions.share(mean, sigma, weight, chances) }
          chances
        end
      end

      # One of several outcomes: {outcome => chance}, summing to 1.
      class Choice
        attr_reader :chances

        def initialize(chances)
          @chances = chances.freeze
          freeze
        end

        # Chance (0..1) of an outcome.
        def density(outcome)
          chances.fetch(outcome, 0.0)
        end

        # Chances in the order of these outcomes.
        def bins(outcomes)
          outcomes.map { |outcome| chances.fetch(outcome, 0.0) }
        end
      end
    end
  end
end
