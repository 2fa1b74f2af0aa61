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
    end
  end
end
