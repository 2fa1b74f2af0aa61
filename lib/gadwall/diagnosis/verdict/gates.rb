# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # Rules that stand between a high probability and the word 'proven' (data/diagnosis/gates.yml): which needs a kind
    # of place asks for. What each need means stands in Needs.
    class Gates
      # posterior: Posterior; coverage: Coverage; body: Observations::Body; planner: NextTests, for minutes.
      def initialize(posterior, coverage, body, planner)
        @posterior = posterior
        @gates = posterior.system.catalogue.gates.values
        @planner = planner
        @examined = Examined.new(posterior, coverage, body)
        @choice = TestChoice.new(@examined, planner)
        @needs = Needs::BY_ID.transform_values { |need| need.new(@examined, @choice, planner) }
        @standing = {}
      end

      # suspect: Posterior::Suspect with a fault. Returns the Missing needs; empty when the gate is passed.
      def missing(suspect)
        gate = gate_for(suspect)
        unmet = ["direct", *gate["needs"]].reject { |id| met?(id, suspect) }
        missing = unmet.map { |id| asked(id, suspect, gate["reason"]) }
        missing + (missing.any? && suspect.members.size > 1 ? [] : unsteady(suspect))
      end

      # What is missing before 'no fault found' is a verdict: Array of Missing.
      def missing_for_none
        no_fault.missing
      end

      # The first gate whose places speak of this one: "connector", "section", or "family/place" with * for any.
      def gate_for(suspect)
        kind = suspect.place_kind
        name = "#{suspect.circuit.family}/#{suspect.fault.place}"
        @gates.find { |gate| gate["places"].any? { |pattern| pattern == kind || File.fnmatch(pattern, name) } }
      end

      # Does something that was seen set the place apart from the others of its circuit? Codes and live data alone name
      # a circuit, and a reading that several places can cause leaves the choice among them to base rates. Nothing wrong
      # is told by something measured.
      def separated?(suspect)
        return no_fault.measured? if suspect.none?

        return true if suspect.cause || suspect.members.size > 1

        !one_reading?(suspect) && standing(suspect).separate?
      end

      # The most telling test of a circuit that is left, by which something is measured: full id, or nil.
      def first_test(circuit_id)
        @choice.measuring(@examined.system.circuit_named(circuit_id))
      end

      # As TestChoice#revealing.
      def revealing_test(circuit)
        @choice.revealing(circuit)
      end

      private

      def no_fault
        @no_fault ||= NoFaultGate.new(@examined, @choice)
      end

      WIRING = %w[connector section ground_point].freeze

      # Is the wiring accused by one reading that several of its places can cause?
      def one_reading?(suspect)
        return false unless WIRING.include?(suspect.place_kind)

        mine = @examined.of(suspect.circuit)
        mine.map { |each| each.test.id }.uniq.size == 1 && mine.none? { |each| each.test.kind == "table" } &&
          !@examined.isolated?(suspect)
      end

      BY_READINGS = %w[separate ends].freeze # needs that a fault which went with a change has met

      def met?(id, suspect)
        return true if BY_READINGS.include?(id) && (suspect.cause || @examined.put_right?(suspect))

        @needs.fetch(id).met?(suspect)
      end

      def asked(id, suspect, reason)
        need = @needs.fetch(id)
        Missing.new(need: id, text: need.text, reason: reason, tests: Later.new { need.tests(suspect) }).freeze
      end

      CONFIRM = "A second reading beside the one that decides"

      # A leader that falls with one reading, if that was a slip, waits for a second one.
      def unsteady(suspect)
        return [] if @examined.put_right?(suspect)

        all = suspect.members.size > 1 ? only_accuser(suspect) : standing(suspect).decisive
        decisive = all.last or return []
        [
          Missing.new(
            need: "confirm",
            text: "#{CONFIRM}: #{decisive.test.title}",
            reason: "A verdict that hangs on one reading falls with one slip: repeat it, or take another one.",
            tests: Later.new { [confirming_test(suspect, decisive)] },
            hangs_on: all.map(&:test_id)
          ).freeze
        ]
      end

      def standing(suspect)
        @standing[suspect.id] ||= StandingAlone.new(@posterior, suspect)
      end

      # Of what reaches several circuits: the one reading that speaks against it, where there is no second one. What was
      # looked at once counts in each circuit.
      def only_accuser(suspect)
        accusing = @examined.accusing(suspect)
        accusing.map(&:seq).uniq.size == 1 ? accusing.first(1) : []
      end

      # Another test that only this fault would spoil, where it takes no longer than the reading itself; else the
      # reading again.
      def confirming_test(suspect, decisive)
        again = decisive.test_id
        return again if suspect.members.size > 1

        other = @choice.isolating(suspect, @examined.cleared_places(suspect, but: decisive)) or return again

        circuit, test = @examined.system.test(other)
        minutes = @planner.minutes(suspect.circuit, decisive.test)
        @planner.minutes(circuit, test) <= minutes ? other : again
      end
    end
  end
end
