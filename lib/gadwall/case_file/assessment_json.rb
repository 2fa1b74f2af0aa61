# frozen_string_literal: true

module Gadwall
  class CaseFile
    # An assessment as plain data for `bin/gadwall assess`. Added to what other programs rely on, never changed.
    module AssessmentJSON
      MOST_TESTS = 12

      # assessment: Diagnosis::Assessment. Returns a Hash, the fields of docs/formats/case.md.
      def self.of(assessment)
        {
          suspects: assessment.suspects.map { |suspect| suspect(suspect) },
          next_tests: assessment.next_tests.first(MOST_TESTS).map { |option| option(option, assessment) },
          places: places(assessment),
          unlisted: assessment.posterior.unlisted.round(6),
          lines: assessment.verdict.conclusions.map { |line| line(line) },
          codes:
            assessment.explanations.rows.map do |row|
              { code: row.code.word, circuit: row.code.circuit_id, kind: row.kind, explained_by: row.by }
            end,
          verdict: verdict(assessment.verdict),
          cautions: assessment.cautions,
          doubtful_readings: doubtful(assessment),
          minutes_to_verdict: assessment.minutes_to_verdict
        }
      end

      def self.suspect(suspect)
        {
          fault: suspect.id,
          text: suspect.text,
          probability: suspect.probability.round(6),
          place: place_of(suspect),
          repair: suspect.repair
        }
      end

      def self.place_of(suspect)
        suspect.cause ? suspect.cause.named_place : suspect.place
      end

      # Suspects by place: faults that the same repair cures, together.
      def self.places(assessment)
        assessment.posterior.places.map do |place, probability|
          faults = assessment.suspects.select { |suspect| suspect.place == place }
          {
            place: faults.any? ? place_of(faults.first) : place,
            text: faults.first&.text,
            probability: probability.round(6),
            faults: faults.map(&:id)
          }
        end
      end

      def self.option(option, assessment)
        {
          test: option.id,
          text: "#{option.circuit.title}: #{option.test.title}",
          minutes: option.minutes,
          bits: option.bits.round(4),
          bits_per_minute: option.bits_per_minute.round(4),
          where: option.test.where,
          needed_for_verdict: option.needed,
          outcomes: option.outcomes.map { |outcome| outcome(outcome, assessment) }
        }
      end

      def self.outcome(outcome, assessment)
        leader = assessment.suspects.find { |suspect| suspect.place == outcome.places.keys.first }
        {
          result: outcome.label,
          points_to: leader ? leader.id : outcome.places.keys.first,
          place: leader ? place_of(leader) : outcome.places.keys.first,
          probability: outcome.chance.round(4),
          as_it_should_be: outcome.good
        }
      end

      # A line of investigation, followed by itself.
      def self.line(line)
        {
          state: line.state,
          circuits: line.investigation.circuits,
          fault: line.suspect.id,
          text: line.suspect.text,
          place: place_of(line.suspect),
          probability: line.probability.round(6),
          why: line.why,
          missing: line.missing.map(&:text)
        }
      end

      def self.verdict(verdict)
        {
          state: verdict.state,
          fault: verdict.suspect.id,
          text: verdict.suspect.text,
          probability: verdict.probability.round(6),
          place: place_of(verdict.suspect),
          why: verdict.why,
          missing:
            verdict.missing.map do |missing|
              [missing.text, ("(#{missing.tests.join(", ")})" if missing.tests.any?)].compact.join(" ")
            end
        }
      end

      def self.doubtful(assessment)
        assessment
          .weights
          .select { |row| row.outlier_chance > Diagnosis::Weight::OUTLIER_FROM }
          .map do |row|
            {
              entry: row.observation.seq,
              test: row.observation.test_id,
              text: "Measure again: probes, meter battery, wrong pin?"
            }
          end
      end
      private_class_method :suspect, :place_of, :places, :line, :option, :outcome, :verdict, :doubtful
    end
  end
end
