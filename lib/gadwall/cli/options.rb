# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall options`: the ways to mend a place.
    class Options < Command
      USAGE = ["options CASE.json --place CIRCUIT/PLACE | --lines", "the ways to mend a place"].freeze

      private

      def declare(parser)
        declare_lines(parser)
        parser.on("--place PLACE") { |place| once!(:place, place) }
      end

      def fits?(rest)
        super && options.key?(:place)
      end

      def answer(path)
        PlanFile.new(case_at(path)).options(options[:place])
      end

      def many(data)
        request = PlaceRequest.new(data)
        place, *others = request.pairs.map(&:first)
        if place.nil? || others.any?
          raise InputError.new(field: "place", given: others.join(", "), expected: "one place, CIRCUIT/PLACE")
        end

        PlanFile.new(request.kase(@models)).options(place)
      end
    end
  end
end
