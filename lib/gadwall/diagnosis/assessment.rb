# frozen_string_literal: true

module Gadwall
  module Diagnosis
    # The answer of Diagnosis.assess. Frozen; never stored: the same evidence always gives it again.
    class Assessment
      attr_reader :system,
                  :body,
                  :posterior,
                  :investigations,
                  :explanations,
                  :verdict,
                  :weights,
                  :next_tests,
                  :cautions,
                  :coverage,
                  :off_road

      def initialize(system, body)
        @system = system
        @body = body
        @posterior = Posterior.new(system, body)
        @investigations = Investigation.all(posterior).freeze
        @explanations = Explanations.new(posterior, body, investigations)
        @weights = Weight.new(posterior, body, investigations).rows.freeze
        @off_road = OffRoad.reasons(posterior.suspects, body, system.catalogue)
        @planner = NextTests.new(posterior, body, drive: off_road.empty?)
        @coverage = Coverage.new(posterior, body.observations)
        @verdict =
          Verdict.new(
            posterior,
            body,
            Gates.new(posterior, coverage, body, @planner),
            weights,
            investigations,
            explanations
          )
        @next_tests = ranked.freeze
        @cautions = Cautions.for(self).freeze
        freeze
      end

      # The most probable sets of faults: Array of Suspects::Suspect.
      def suspects
        posterior.suspects
      end

      # A Verdict::Conclusion at a place, whatever leads now; nil for a place that is none.
      def conclusion_at(place)
        verdict.conclusion_at(place)
      end

      # What a test must tell before the readings that a conclusion hangs on are rather taken again; from memory, by the
      # runs of docs/engine.md.
      LEAST_BITS = 0.05

      # One test with its outcomes, whatever its rank: NextTests::Option. circuit, test: of the system.
      def option(circuit, test)
        @planner.option(circuit, test)
      end

      # The foremost test of some circuits, though others may come before it: NextTests::Option, or nil where none of
      # them is worth a test yet. circuits: Array of Vehicle::System::Circuit.
      def next_test_in(circuits)
        ids = circuits.map(&:id)
        next_tests.find { |option| ids.include?(option.circuit.id) } || @planner.best_of(circuits)
      end

      # Rough minutes to a verdict: what is still open, at the rate of the best tests, and what the gates still ask.
      def minutes_to_verdict
        return 0 if verdict.proven?

        best = next_tests.reject(&:needed).first
        search =
          if best&.bits&.positive? && verdict.state == "open"
            [[open_bits, best.bits].max / best.bits_per_minute, 90].min
          else
            0
          end
        (search + next_tests.select(&:needed).sum(&:minutes)).round
      end

      # Bits of not knowing in the lines of investigation that are followed.
      def open_bits
        investigations.sum { |investigation| Information.entropy(investigation.places.values.map { |p| [p, 1.0].min }) }
      end

      # "ok", "suspect" or "unknown": how a place is to be drawn. A place is suspect from one chance in twenty.
      def place_state(circuit_id, place)
        probability = posterior.chance_at(circuit_id, place)
        return "suspect" if probability >= 0.05

        coverage.cleared?(circuit_id, place) ? "ok" : "unknown"
      end

      private

      # Where no test tells much any more, the readings that the verdict hangs on may be taken once more.
      def ranked
        asked = { needed: verdict.needed_tests, again: verdict.tests_in_doubt }
        options = @planner.ranked(**asked)
        best = options.first
        return options if verdict.proven? || (best && (best.needed || best.bits >= LEAST_BITS))

        decisive = verdict.decisive_tests
        decisive.empty? ? options : @planner.ranked(**asked, again: asked[:again] | decisive)
      end
    end
  end
end
