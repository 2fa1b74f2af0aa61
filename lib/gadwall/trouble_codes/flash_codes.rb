# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # Codes counted from a flashing lamp, as somebody taps along with it. The pauses fall into two or three kinds:
    # between flashes, between the digits of a code, between codes. How long each is, nobody knows beforehand; what
    # counts is that a kind's pauses lie within some 30 percent of each other and the kinds lie well apart.
    #
    # Method: every way to cut the sorted pauses into one, two or three runs is scored by a normal likelihood of their
    # logarithms about each run's mean (sigma for +-30 percent) less a cost for each further kind (Bayesian information
    # criterion; handbook: statistics, from memory). Two kinds: a train of flashes is its code (12 flashes = 12). Three:
    # each train is a digit (common practice: about 1 s between digits, about 3 s between codes).
    class FlashCodes
      SIGMA = 0.18 # of the logarithm, for +-30 percent evenly spread
      LEAST_APART = 1.55 # ratio of the means of neighbouring kinds
      KIND_COST = 2.5 # log-likelihood that a further kind of pause must earn
      MOST_FLASHES = 400

      # code: "12"; times: how often it came.
      Code = Struct.new(:code, :times, keyword_init: true)
      # codes: Array of Code in the order in which they came; kinds: 1, 2 or 3 kinds of pauses; dropped: a first train
      # that was cut off, or nil; sure: did each code come twice?
      Result = Struct.new(:codes, :kinds, :dropped, :sure, keyword_init: true)

      # flashes: [[on, off], ...] in milliseconds, when the lamp went on and off, rising. Raises InputError.
      def self.read(flashes)
        new(flashes).result
      end

      def initialize(flashes)
        check(flashes)
        @flashes = flashes
        @pauses = flashes.each_cons(2).map { |(_, off), (on, _)| [on - off, 1.0].max }
      end

      # The codes that were flashed, with what was left out and whether it is sure.
      def result
        kinds = kind_of_pauses
        trains = trains(kinds)
        codes, dropped = without_cut_off(trains)
        counted = codes.tally.map { |code, times| Code.new(code: code, times: times).freeze }
        Result.new(
          codes: counted,
          kinds: kinds.uniq.size,
          dropped: dropped,
          sure: counted.all? { |each| each.times > 1 }
        ).freeze
      end

      private

      def check(flashes)
        sound =
          flashes.is_a?(Array) &&
            flashes.all? do |pair|
              pair.is_a?(Array) && pair.size == 2 && pair.all? { |time| time.is_a?(Numeric) && time.finite? }
            end
        unless sound && flashes.flatten.each_cons(2).all? { |a, b| a <= b }
          raise InputError.new(
                  field: "flashes",
                  given: flashes.inspect[0, 40],
                  expected: "pairs of rising times, lamp on and lamp off, in milliseconds"
                )
        end
        return if flashes.size.between?(1, MOST_FLASHES)

        raise InputError.new(
                field: "flashes",
                given: flashes.size,
                expected: "1 to #{MOST_FLASHES} flashes",
                fix: "Tap along with the lamp: down while it is lit."
              )
      end

      # By pause: 0 between flashes, 1 between digits (or codes, where there are two kinds), 2 between codes.
      def kind_of_pauses
        return [] if @pauses.empty?

        logs = @pauses.map { |pause| Math.log(pause) }
        cuts = best_cuts(logs.sort)
        logs.map { |log| cuts.count { |cut| log > cut } }
      end

      # Limits between the kinds, as logarithms.
      def best_cuts(sorted)
        middles =
          sorted
            .each_cons(2)
            .map { |a, b| (a + b) / 2 }
            .each_with_index
            .reject { |_, i| sorted[i + 1] - sorted[i] < 1e-9 }
            .map(&:first)
        choices = [[]] + middles.map { |middle| [middle] } + middles.combination(2).to_a
        choices.max_by { |cuts| score(sorted, cuts) }
      end

      def score(sorted, cuts)
        groups = sorted.group_by { |log| cuts.count { |cut| log > cut } }.sort.map(&:last)
        means = groups.map { |group| group.sum / group.size }
        return -Float::INFINITY if means.each_cons(2).any? { |a, b| b - a < Math.log(LEAST_APART) }

        groups.zip(means).sum { |group, mean| group.sum { |log| -0.5 * (((log - mean) / SIGMA)**2) } } -
          (cuts.size * (KIND_COST + (0.5 * Math.log(sorted.size))))
      end

      # Codes as they came: Strings.
      def trains(kinds)
        most = kinds.max || 0
        codes = [[1]]
        kinds.each do |kind|
          if kind.zero?
            codes.last[-1] += 1
          elsif kind == most
            codes << [1]
          else
            codes.last << 1
          end
        end
        codes.map { |digits| digits.map { |count| digits.size > 1 ? count % 10 : count }.join }
      end

      # The first train may have been joined half-way: where every other code comes again and it does not, it is
      # dropped.
      def without_cut_off(codes)
        rest = codes.drop(1)
        cut_off = codes.size > 2 && !rest.include?(codes.first) && rest.tally.values.min > 1
        cut_off ? [rest, codes.first] : [codes, nil]
      end
    end
  end
end
