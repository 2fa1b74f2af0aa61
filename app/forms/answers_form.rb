# frozen_string_literal: true

module Web
  module Forms
    # Answers to the plain questions of the sheet, with tyre, teeth and kinds of sensors. What was not asked stays as it
    # is.
    class AnswersForm
      TEXTS = %w[name plate tyre teeth].freeze

      # input: Input.
      def initialize(input)
        @input = input
      end

      # What the answers change on a sheet: a Hash with String keys.
      def vehicle
        questions = Gadwall::Knowledge.catalogue.questions.keys
        given = (questions + TEXTS).select { |field| @input.given?(field) }.to_h { |field| [field, @input.text(field)] }
        given = given.reject { |field, value| value.empty? && (!TEXTS.include?(field) || field == "name") }
        sensors ? given.merge("sensors" => sensors) : given
      end

      private

      def sensors
        ends = %w[front rear].select { |name| @input.given?(name) }
        ends.to_h { |name| [name, @input.text(name)] } if ends.any?
      end
    end
  end
end
