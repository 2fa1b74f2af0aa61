# frozen_string_literal: true

module Gadwall
  module Verification
    # How many trips without the fault show that it is gone, where it only came now and then: n = ln(1 - trust) /
    # ln(1 - p) (handbook: rule of three and its exact form, from memory; IN-02 of the reference values).
    module CleanTrips
      TRUST = 0.95
      FORMULA = "n = ln(0.05) / ln(1 − p)"

      # p: how often it came, 0..1 of the trips. Returns a whole number of trips. Raises InputError.
      def self.needed(p, trust: TRUST)
        unless p.is_a?(Numeric) && p.positive? && p <= 1
          raise InputError.new(field: "p", given: p, expected: "how often it came, above 0 and up to 1")
        end
        return 1 if p == 1

        (Math.log(1 - trust) / Math.log(1 - p)).ceil
      end

      # The rate that is still possible after so many clean trips, 0..1. trips: Integer from 1.
      def self.still_possible(trips, trust: TRUST)
        1 - ((1 - trust)**(1.0 / trips))
      end

      # [["every second trip", 5], ...]
      def self.table
        { 2 => "every second trip", 4 => "one trip in four", 10 => "one trip in ten" }.map do |one_in, words|
          [words, needed(1.0 / one_in)]
        end
      end
    end
  end
end
