# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall tests`: every test of a case's vehicle, with its outcomes.
    class Tests < Command
      USAGE = ["tests CASE.json | --lines", "every test of the case's vehicle, with its outcomes"].freeze

      private

      def declare(parser)
        declare_lines(parser)
      end

      def answer(path)
        tests_of(case_at(path))
      end

      def many(data)
        tests_of(CaseFile.of(data, models: @models))
      end

      def tests_of(kase)
        kase.system.circuits.flat_map do |circuit|
          circuit.model.offered_tests.map do |test|
            {
              test: "#{circuit.id}.#{test.id}",
              text: "#{circuit.title}: #{test.title}",
              unit: test.unit,
              outcomes: test.outcomes,
              minutes: test.minutes,
              where: test.where
            }.compact
          end
        end
      end
    end
  end
end
