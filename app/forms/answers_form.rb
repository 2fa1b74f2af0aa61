# frozen_string_literal: true

module Web
  module Forms
    # Answers to the plain questions of the sheet, with tyre, teeth and kinds of sensors. What was not asked stays as it
    # is.
    class AnswersForm
      TEXTS = %w[tyre teeth].freeze

      def initialize(params)
        @params = params
      end

      # What the answers change on a sheet: a Hash with String keys.
      def vehicle
        questions = Gadwall::Knowledge.catalogue.questions.keys
        given =
          (questions + TEXTS).select { |field| @params.key?(field) }.to_h { |field| [field, @params[field].to_s.strip] }
        given = given.reject { |field, value| value.empty? && !TEXTS.include?(field) }
        sensors ? given.merge("sensors" => sensors) : given
      end

      private

      def sensors
        ends = %w[front rear].select { |name| @params.key?(name) }
        ends.to_h { |name| [name, @params[name].to_s] } if ends.any?
      end
    end
  end
end
