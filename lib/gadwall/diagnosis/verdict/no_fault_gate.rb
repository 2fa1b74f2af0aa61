# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # What stands between a high probability and the verdict 'no fault found': nothing is called good that was not
    # tested, nor while something odd was seen once and not again.
    class NoFaultGate
      # examined: Examined; choice: TestChoice.
      def initialize(examined, choice)
        @examined = examined
        @choice = choice
        @posterior = examined.posterior
        @system = examined.system
        @coverage = examined.coverage
        @body = examined.body
      end

      # Array of Missing, [] where it may be said.
      def missing
        unmeasured.empty? ? unsound : [*unsound, measure(unmeasured)]
      end

      # Was anything measured? A code that stays away, or a lamp that is out, is no measurement.
      def measured?
        measured.any?
      end

      private

      def measured
        @measured ||=
          @body
            .observations
            .reject { |each| Examined::TALK.include?(each.test.kind) }
            .map { |each| each.circuit.id }
            .uniq
      end

      # Ids of circuits that should have been measured: those with a code; where nothing points anywhere, one of each
      # kind.
      def unmeasured
        @unmeasured ||=
          begin
            ids = coded.any? ? coded - measured : kinds_left
            ids.empty? && measured.empty? ? @system.circuits.map(&:id).first(1) : ids
          end
      end

      def coded
        @body.scans.flat_map(&:codes).filter_map(&:circuit_id).uniq & @system.circuits.map(&:id)
      end

      # Of each kind of circuit of which none was measured, the likeliest to be at fault. None where a lamp or a
      # complaint says where to look.
      def kinds_left
        return [] if @body.lamps.any?(&:lit) || @body.symptoms.any?

        left = @system.circuits.group_by(&:family).values.reject { |same| same.map(&:id).intersect?(measured) }
        left.map { |same| same.max_by { |circuit| @posterior.circuit_probability(circuit) }.id }
      end

      def measure(ids)
        Missing.new(
          need: "measured",
          text: "Circuits of the stored DTCs tested",
          reason: "Nothing is called good that was not tested.",
          tests: Later.new { ids.filter_map { |id| @choice.measuring(@system.circuit_named(id)) } }
        ).freeze
      end

      # What was seen once and as it should not be is seen again; what was seen so and then otherwise is shown another
      # way.
      def unsound
        odd.each_value.filter_map do |seen|
          next repeat(seen.first) if seen.one?

          another(seen.first) unless seen.all? { |each| odd?(each) } || shown_another_way?(seen.first)
        end
      end

      # {test id => its observations}, of tests that were ever as they should not be.
      def odd
        @body.observations.group_by(&:test_id).select { |_, seen| seen.any? { |each| odd?(each) } }
      end

      def odd?(observation)
        !observation.test.behaviour.looks_at_warnings? && !@coverage.normal?(observation)
      end

      # Did a figure clear a place that this test covers?
      def shown_another_way?(observation)
        places = @coverage.places(observation.circuit, observation.test)
        places.any? do |place|
          @coverage.clearing(observation.circuit.id, place).any? { |each| measures?(each.test, observation.test) }
        end
      end

      def measures?(test, odd)
        test.numeric? && test.id != odd.id
      end

      def most_telling(circuit)
        @choice.best(circuit) { |test| !Examined::TALK.include?(test.kind) && yield(test) }
      end

      def repeat(observation)
        need(": #{observation.test.title}", "a slip, or a fault that nobody complained of", observation.test_id)
      end

      def another(observation)
        places = @coverage.places(observation.circuit, observation.test)
        test =
          most_telling(observation.circuit) do |each|
            measures?(each, observation.test) && @coverage.places(observation.circuit, each).intersect?(places)
          end
        reason = "seen so once, and otherwise once: a figure of this circuit decides"
        need(": #{observation.circuit.title}", reason, test)
      end

      def need(what, reason, test)
        Missing.new(
          need: "seen_again",
          text: "What was not as it should be seen again#{what}",
          reason: "A sound vehicle does not show it: #{reason}.",
          tests: [test].compact
        ).freeze
      end
    end
  end
end
