# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall plan`: the composed work of a case that holds a decision, or for places that are named. Each --option
    # belongs to the --place before it.
    class Plan < Command
      USAGE = [
        "plan CASE.json [--place CIRCUIT/PLACE [--option ID]] ... | --lines",
        "the composed work of a case that holds a decision, or for these places"
      ].freeze

      private

      def declare(parser)
        declare_lines(parser)
        @places = []
        parser.on("--place PLACE") { |place| @places << [place, nil] }
        parser.on("--option ID") do |id|
          raise WrongUsage if @places.empty? || @places.last.last

          @places.last[1] = id
        end
      end

      def answer(path)
        planned(case_at(path), @places)
      end

      def many(data)
        request = PlaceRequest.new(data)
        planned(request.kase(@models), request.pairs)
      end

      def planned(kase, pairs)
        file = PlanFile.new(kase)
        pairs.empty? ? file.decided : file.placed(pairs)
      end
    end
  end
end
