# frozen_string_literal: true

module Gadwall
  module Training
    # How an exercise is judged (data/practice/rubric.yml): five parts that make a hundred, each less what was done,
    # with the reason.
    class Rubric
      # Points that each part begins with; demo.
      PARTS = { "safety" => 20, "method" => 35, "result" => 25, "time" => 10, "cost" => 10 }.freeze
      POINTS = (0..100)
      # A part as it came out. points: left of `of`; reasons: [[text, times, points off], ...].
      Part = Struct.new(:id, :of, :points, :reasons, keyword_init: true)

      # changed: {id of a row => points}, as an instructor set them. Raises InputError, UnknownNameError.
      def initialize(changed = {}, catalogue: Knowledge.catalogue)
        @rows = catalogue.rubric
        @changed = changed.to_h { |id, points| [known(id), within(id, points)] }
      end

      # {id of a row => points}, as they hold, for the store.
      def to_h
        rows.to_h { |row, points| [row["id"], points] }
      end

      # Rows with the points that hold: [[row, points], ...].
      def rows
        @rows.values.map { |row| [row, points(row)] }
      end

      # counts: {id of a row => times}; what is missing did not happen. Returns an Array of Part.
      def judge(counts)
        by_part = @rows.values.group_by { |row| row["part"] }
        PARTS.map { |id, of| part(id, of, by_part.fetch(id, []), counts) }
      end

      private

      def part(id, of, rows, counts)
        reasons =
          rows.filter_map do |row|
            times = [counts.fetch(row["id"], 0), row["most"]].min
            [row["says"], times, times * points(row)] if times.positive? && points(row).positive?
          end
        Part.new(id: id, of: of, points: [of - reasons.sum(&:last), 0].max, reasons: reasons).freeze
      end

      def points(row)
        @changed.fetch(row["id"], row["points"])
      end

      def known(id)
        return id if @rows.key?(id)

        raise UnknownNameError.new(field: "rubric", given: id, known: @rows.keys)
      end

      def within(id, points)
        number = points.is_a?(Integer) ? points : Integer(points.to_s, 10, exception: false)
        return number if number && POINTS.cover?(number)

        raise InputError.new(field: id, given: points, expected: "a whole number from 0 to 100")
      end
    end
  end
end
