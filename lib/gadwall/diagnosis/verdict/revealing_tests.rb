# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What to test in a circuit that has no code, where a lit lamp says that something may be wrong there all the same:
    # its module may have no power, or not be heard. Part of Gates, which has the readings.
    module RevealingTests
      # The test of a circuit that nothing accuses which would show most of what can be wrong there and no test so far
      # would have shown, for its effort; nil where none adds anything.
      def revealing_test(circuit)
        done = observations_of(circuit).map(&:test)
        known = Coverage.share_shown(@posterior, circuit, done)
        read = circuit.model.tests.values.select { |test| open?(circuit, test) && !TALK.include?(test.kind) }
        added = read.to_h { |test| [test, Coverage.share_shown(@posterior, circuit, [*done, test]) - known] }
        left = added.select { |_, share| share.positive? }
        found, = left.max_by { |test, share| [share / (SET_UP + @planner.minutes(circuit, test)), test.id] }
        found && "#{circuit.id}.#{found.id}"
      end

      TALK = %w[cleared compared].freeze # a code that stays away, a lamp that is out: no wire was measured
      SET_UP = 3.0 # minutes that any test takes beside its own; from memory
    end
  end
end
