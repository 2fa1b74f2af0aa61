# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Which tests stand foremost, as a hand would do them one after the other: what the first has opened is open for the
    # second, and what several forms of a test would tell is asked once.
    class Foremost
      COUNT = 5
      LOOK_MINUTES = 6 # the way to it counted; from memory
      NAMED_WITHIN = 3 # common practice: where a code names a circuit, a test of it is among the first three

      # options: Array of NextTests::Option, best first; planner: NextTests. Returns all of them, the foremost in front.
      def self.of(options, planner)
        new(options, planner).to_a
      end

      def initialize(options, planner)
        @options = options
        @planner = planner
        @as_it_is = {}.compare_by_identity
      end

      # Array of NextTests::Option.
      def to_a
        chosen = one_after_the_other
        chosen + @options.reject { |option| chosen.any? { |each| each.equal?(option) } }
      end

      private

      # Of one form of test (live data of a wheel, say) only the best stands among the foremost: whoever wants the
      # others sees them behind. What a verdict waits for stays where it is.
      def one_after_the_other
        opened = @planner.open_access.to_set
        left = @options
        chosen = []
        while chosen.size < COUNT
          best = wanted(left, chosen).min_by { |option| order(option, opened) } or break
          opened |= Observations::Access.keys(best.circuit, best.test)
          chosen << best
          left = left.reject { |option| option.equal?(best) || another_form?(option, best) }
        end
        chosen
      end

      # Where it stands among the options once this lies open: as it stood, unless it takes less or more by that.
      def order(option, opened)
        minutes = @planner.minutes(option.circuit, option.test, opened)
        return @planner.order(option, minutes) unless minutes == option.minutes

        @as_it_is[option] ||= @planner.order(option)
      end

      # Would it tell the same as what is chosen already?
      def another_form?(option, chosen)
        !option.needed && !chosen.needed && form(option) == form(chosen)
      end

      def form(option)
        @planner.form(option.test)
      end

      # Those of the options that may take the next place: by the third at the latest stands a test of a circuit that a
      # code names, and the last is a look that costs next to nothing, unless there is one before (common practice: look
      # before measuring).
      def wanted(left, chosen)
        case chosen.size
        when NAMED_WITHIN - 1
          first_of_all(left, chosen) { |option| @planner.coded?(option.circuit) && !option.test.last? }
        when COUNT - 1
          first_of_all(left, chosen) { |option| look?(option) }
        else
          left
        end
      end

      def first_of_all(left, chosen, &)
        found = chosen.any?(&) ? [] : left.select(&)
        found.empty? ? left : found
      end

      def look?(option)
        option.test.kind == "table" && option.minutes <= LOOK_MINUTES && !option.test.last?
      end
    end
  end
end
