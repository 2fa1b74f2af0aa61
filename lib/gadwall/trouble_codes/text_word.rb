# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # A code of which the tool prints only the text: "left park brake motor, open circuit".
    class TextWord
      include WithoutFailureType

      TEXT = Observations::NO_NUMBER

      # Stands in the place of the number.
      def text
        TEXT
      end
    end
  end
end
