# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall scan`: modules and codes out of a bus log or a code list; two of them compared.
    class Scan < Command
      USAGE = ["scan FILE [LATER]", "modules and codes out of a bus log or a code list; two of them compared"].freeze

      private

      def fits?(rest)
        rest.size.between?(1, 2)
      end

      def answer(path, later = nil)
        first = ScanFile.read(path)
        later ? first.compared_with(ScanFile.read(later)) : first.to_h
      end
    end
  end
end
