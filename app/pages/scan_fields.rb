# frozen_string_literal: true

module Web
  module Pages
    # The fields of a scan, before the repair and after it.
    class ScanFields
      attr_reader :errors, :label

      # sheet: Vehicle::Sheet; form: Forms::CodesForm of what was refused, or nil.
      def initialize(sheet, form, errors, label)
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

      # [[id, name, ticked], ...] of the other modules of this vehicle.
      def others
        Forms::CodesForm.others(@sheet).map { |id, name| [id, name, @form&.silent?(id) || false] }
      end
    end
  end
end
