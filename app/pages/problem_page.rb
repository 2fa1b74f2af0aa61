# frozen_string_literal: true

module Web
  module Pages
    # Something is wrong: said in a title and a sentence.
    class ProblemPage < Page
      attr_reader :title, :text, :request_id

      def initialize(title, text, request_id: nil)
        super()
        @title = title
        @text = text
        @request_id = request_id
      end
    end
  end
end
