# frozen_string_literal: true

module Gadwall
  module TroubleCodes
    # What all words share but the standard's own: no failure type byte beside them, and their text is all they are.
    module WithoutFailureType
      # nil: what is known stands in the word itself.
      def failure_type
        nil
      end

      # Its `text`.
      def to_s
        text
      end
    end
  end
end
