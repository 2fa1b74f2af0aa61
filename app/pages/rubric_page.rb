# frozen_string_literal: true

module Web
  module Pages
    # What an exercise is judged by, for an instructor to read and change.
    class RubricPage < Page
      # rubric: Gadwall::Training::Rubric; saved: was it just changed?
      def initialize(rubric, saved: false, errors: {}, typed: {})
        super(nil, errors: errors, typed: typed)
        @rubric = rubric
        @saved = saved
      end

      attr_reader :saved

      def title
        "How an exercise is judged"
      end

      # [[part, points of it, [[row, points as they hold or as typed], ...]], ...].
      def parts
        by_part = @rubric.rows.group_by { |row, _| row["part"] }
        Gadwall::Training::Rubric::PARTS.map do |id, of|
          [id, of, by_part.fetch(id, []).map { |row, points| [row, typed.fetch(row["id"], points)] }]
        end
      end
    end
  end
end
