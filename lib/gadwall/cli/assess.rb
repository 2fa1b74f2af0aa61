# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall assess`: suspects, next tests and verdict of a case.
    class Assess < Command
      USAGE = ["assess CASE.json | --lines", "suspects, next tests and verdict of a case"].freeze

      private

      def declare(parser)
        declare_lines(parser)
      end

      def answer(path)
        case_at(path).assess
      end

      def many(data)
        CaseFile.of(data, models: @models).assess
      end
    end
  end
end
