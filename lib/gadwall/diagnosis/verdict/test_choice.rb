# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Which test would show what is still to be shown: among those of a circuit that are open, the most telling for its
    # effort. Tests are given as full ids, "front_left.resistance.sensor_plug", nil where there is none.
    class TestChoice
      # examined: Examined; planner: NextTests, for what tests tell and how long they take.
      def initialize(examined, planner)
        @examined = examined
        @planner = planner
        @by_worth = {}
      end

      WEIGHED = 6 # tests weighed again by all that is believed

      # The test of a circuit that the block allows; not one that was done.
      def best(circuit, &)
        allowed = by_worth(circuit).lazy.select(&).first(WEIGHED)
        found = allowed.max_by { |test| [@planner.worth_of(circuit, test), test.id] }
        found && "#{circuit.id}.#{found.id}"
      end

      # The most telling one by which something is measured.
      def measuring(circuit)
        best(circuit) { |test| !Examined::TALK.include?(test.kind) }
      end

      # A test of the circuit that nobody did yet. id: within the circuit.
      def undone(circuit, id)
        test = circuit.model.tests[id]
        "#{circuit.id}.#{id}" if test && !@examined.done?(circuit, test)
      end

      LEAST_BITS = 0.005 # what a test must tell to be worth asking for; from memory, by the runs of docs/engine.md

      # Would it tell enough to be worth asking for?
      def telling?(circuit, test)
        @planner.bits(circuit, test) >= LEAST_BITS
      end

      # A test that this fault would spoil.
      def spoilt(circuit, fault)
        best(circuit) { |test| !test.behaviour.looks_at_warnings? && touched?(circuit, test, fault) }
      end

      # A test that this fault would spoil and no other place. cleared: names of places that are known to be good.
      def isolating(suspect, cleared)
        best(suspect.circuit) do |test|
          test.invasive.zero? && spoilt_only_by?(suspect.circuit, test, suspect.fault, cleared)
        end
      end

      # Another test of the circuit, that a fault spoils, by a signal known to be good.
      def spoilt_by_place(circuit, fault)
        best(circuit) do |test|
          touched?(circuit, test, fault) && @examined.coverage.places(circuit, test) == [fault.place]
        end
      end

      # A test that clears what else could have spoilt the reading which accuses; the suspect itself would not spoil it.
      def clearing(suspect)
        circuit = suspect.circuit
        cleared = @examined.cleared_places(suspect)
        left =
          @examined
            .accusing(suspect)
            .map { |each| @examined.coverage.places(circuit, each.test) - cleared - [suspect.fault.place] }
            .min_by(&:size) || []
        best(circuit) do |test|
          !touched?(circuit, test, suspect.fault) && @examined.coverage.places(circuit, test).intersect?(left)
        end
      end

      # The test that covers most of the places for its minutes. wanted: names of places.
      def covering(circuit, wanted)
        found =
          open_tests(circuit).max_by do |test|
            covered = (@examined.coverage.places(circuit, test) & wanted).size
            [covered / @planner.minutes(circuit, test).to_f, test.id]
          end
        found && "#{circuit.id}.#{found.id}"
      end

      # The quickest test by hand that the suspected fault would spoil, where nothing speaks against it yet.
      def quickest_accusing(suspect)
        circuit, fault =
          suspect.members.find { |each, own| @examined.coverage.accusing(each.id, own.place).empty? } ||
            suspect.members.first
        (quickest_at(circuit, fault) if suspect.cause) || spoilt(circuit, fault)
      end

      # The test of a circuit that nothing accuses which would show most of what can be wrong there and no test so far
      # would have shown, for its effort; nil where none adds anything. For a circuit without a code, where a lit lamp
      # says that something may be wrong there all the same: its module may have no power, or not be heard.
      def revealing(circuit)
        done = @examined.of(circuit).map(&:test)
        known = share_shown(circuit, done)
        read = open_tests(circuit).reject { |test| Examined::TALK.include?(test.kind) }
        left =
          read.to_h { |test| [test, share_shown(circuit, [*done, test]) - known] }.select { |_, share| share.positive? }
        found, = left.max_by { |test, share| [share / (SET_UP + @planner.minutes(circuit, test)), test.id] }
        found && "#{circuit.id}.#{found.id}"
      end

      SET_UP = 3.0 # minutes that any test takes beside its own; from memory

      private

      def share_shown(circuit, tests)
        Coverage.share_shown(@examined.posterior, circuit, tests)
      end

      # The tests of a circuit that are open, most telling for their effort by the strong beliefs first.
      def by_worth(circuit)
        @by_worth[circuit.id] ||= open_tests(circuit)
          .sort_by { |test| [@planner.worth_of(circuit, test, strong: true), test.id] }
          .reverse!
          .freeze
      end

      # Those that were not done yet, and are not too dear to be asked for.
      def open_tests(circuit)
        circuit.model.tests.values.select { |test| @planner.advised?(circuit, test) && !@examined.done?(circuit, test) }
      end

      def touched?(circuit, test, fault)
        @planner.table(circuit, test).touches?(circuit.model.faults.index(fault))
      end

      # Would this fault spoil the test, and no other place but those that are cleared?
      def spoilt_only_by?(circuit, test, fault, cleared = [])
        touched?(circuit, test, fault) && (@examined.coverage.places(circuit, test) - cleared) == [fault.place]
      end

      # The quickest test that nothing but this place can spoil; a look before others.
      def quickest_at(circuit, fault)
        own = open_tests(circuit).select { |test| spoilt_only_by?(circuit, test, fault) }
        found = own.min_by { |test| [@planner.minutes(circuit, test), test.kind == "table" ? 0 : 1, test.id] }
        found && "#{circuit.id}.#{found.id}"
      end
    end
  end
end
