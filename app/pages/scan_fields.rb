# frozen_string_literal: true

module Web
  module Pages
    # The fields of a scan, before the repair and after it.
    class ScanFields
      attr_reader :errors, :label

      # sheet: Vehicle::Sheet; form: Forms::CodesForm of what was refused, or nil; earlier: Workshop::EarlierScan of
      # this vehicle, or nil.
      def initialize(sheet, form, errors, label, earlier: nil)
        @earlier = earlier
        @sheet = sheet
        @form = form
        @errors = errors
        @label = label
      end

      def text
        @form&.text
      end

      # "yes", "no" or nil: did the ABS module respond?
      def answered
        @form&.answered
      end

      # How many modules responded, as typed.
      def responded
        @form&.responded
      end

      # How many should: as typed, or as many as at the last scan of this vehicle.
      def expected
        @form ? @form.expected : @earlier&.responded
      end

      # What the shop knows of this vehicle, or nil: "J101, 3 Nov 2026: 12 modules responded".
      def earlier
        return unless @earlier

        "#{@earlier.number}: #{@earlier.responded} modules responded"
      end

      # [[id, name, ticked], ...] of the other modules of this vehicle.
      def others
        Forms::CodesForm.others(@sheet).map { |id, name| [id, name, @form&.silent?(id) || false] }
      end
    end
  end
end
