# frozen_string_literal: true

module Gadwall
  module Codes
    # A code of which the tool prints only the text: "left park brake motor, open circuit".
    class TextWord
      TEXT = Evidence::NO_NUMBER

      # Stands in the place of the number.
      def text
        TEXT
      end

      alias to_s text

      # A text has none.
      def failure_type
        nil
      end
    end
  end
end
