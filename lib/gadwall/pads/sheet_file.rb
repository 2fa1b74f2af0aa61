# frozen_string_literal: true

module Gadwall
  module Pads
    # A sheet of pads and discs as JSON, and what it tells: docs/formats/pads.md.
    class SheetFile
      FIELDS = %w[corners front rear discs distance gauge earlier new_at].freeze

      # data: Hash as typed: numbers or texts; earlier: sheets of the same vehicle, oldest first. Raises InputError.
      def initialize(data)
        fail!("pads sheet", data, "an object with corners") unless data.is_a?(Hash)
        unknown = data.keys - FIELDS
        fail!("pads sheet", unknown.join(", "), FIELDS.join(", ")) unless unknown.empty?
        @sheet = sheet(data, "")
        earlier = data.fetch("earlier", [])
        fail!("earlier", earlier, "a list of sheets, oldest first") unless earlier.is_a?(Array)
        before = earlier.each_with_index.map { |each, k| sheet(each, "earlier.#{k + 1}.") }
        @judgement = Judgement.new(@sheet, earlier: before, new_at: number(data["new_at"], "new_at"))
      end

      # {corners: [{corner, inner_mm, outer_mm, goes_on_km, wears_mm_in_1000_km, reckoned, worn}], findings: [texts]}:
      # linings without their backing plates; goes_on_km from the least to the most that the gauge leaves open, null for
      # no end.
      def to_h
        {
          corners: @sheet.corners.map { |corner| row(corner) },
          findings: @judgement.findings.map { |each| said(each) }
        }
      end

      private

      def sheet(data, prefix)
        fail!("#{prefix}corners", data, "a sheet") unless data.is_a?(Hash)
        made, errors = Sheet.typed(data.except("earlier", "new_at"))
        return made if made

        field, sentence = errors.first
        raise InputError.new(field: "#{prefix}#{field}", given: "", expected: sentence)
      end

      def row(corner)
        left = @judgement.left[corner]
        {
          corner: corner,
          inner_mm: @sheet.lining(corner, "inner"),
          outer_mm: @sheet.lining(corner, "outer"),
          goes_on_km: left && [left.low, left.high],
          wears_mm_in_1000_km: left&.worn,
          reckoned: left&.from,
          worn: @judgement.worn.include?(corner)
        }.compact
      end

      def said(finding)
        "#{finding.says}. Likely: #{finding.cause}."
      end

      def number(given, field)
        return if given.nil?

        Quantity::Decimal.read(given) || fail!(field, given, "a number of kilometres")
      end

      def fail!(field, given, expected)
        raise InputError.new(field: field, given: given.to_s[0, 40], expected: expected)
      end
    end
  end
end
