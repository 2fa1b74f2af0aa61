# frozen_string_literal: true

module Gadwall
  module Decision
    # Replace now, or test first? Expected costs in the shop's currency (handbook: decision analysis, value of
    # information; from memory).
    #
    # replace: cost of the job that the leading suspect asks for; test: cost of the next test; other: cost of the job if
    # it is something else; p: probability of the leading suspect.
    module Costs
      # A wrong job is paid, and then test and other job follow.
      def self.replace_now(replace:, test:, other:, p:)
        replace + ((1 - p) * (test + other))
      end

      # Expected cost of testing before replacing, in the workshop's currency. replace, test, other: costs; p: chance
      # 0..1.
      def self.test_first(replace:, test:, other:, p:)
        test + (p * replace) + ((1 - p) * other)
      end

      # Above this probability replacing untested is the cheaper way.
      def self.break_even(replace:, test:)
        return 0.0 if (replace + test).zero?

        replace / (replace + test).to_f
      end

      # The break-even when a wrong job needs no later test.
      def self.break_even_without_later_test(replace:, test:)
        1 - (test / replace.to_f)
      end

      # What knowing for certain is worth: the best job chosen blind, less the mean of the right jobs.
      # A wrong first job is paid and the other follows.
      def self.perfect_information(replace:, other:, p:)
        blind = [replace + ((1 - p) * other), other + (p * replace)].min
        blind - ((p * replace) + ((1 - p) * other))
      end

      # What a test is worth that hits with `hit` and clears with `clear`.
      def self.imperfect_test(replace:, other:, p:, hit:, clear:)
        positive = (p * hit) + ((1 - p) * (1 - clear))
        informed = best(replace, other, p * hit / positive) * positive
        negative = 1 - positive
        informed += best(replace, other, p * (1 - hit) / negative) * negative
        best(replace, other, p) - informed
      end

      # Expected cost of looking in this order: [[probability, cost], ...], each look paid until the fault is found.
      def self.search(order)
        paid = 0.0
        order.sum { |probability, cost| probability * (paid += cost) }
      end

      def self.best(replace, other, p)
        [replace + ((1 - p) * other), other + (p * replace)].min
      end
      private_class_method :best
    end
  end
end
