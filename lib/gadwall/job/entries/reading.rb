# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # A number read at a test, as it was typed.
      class Reading < Observed
        KIND = "reading"
        VERSION = 1
        FIELD = "reading"

        private

        def check
          super
          given = data[FIELD]
          fault!(FIELD, given, "what the meter showed") unless given.is_a?(Numeric) || given.is_a?(String)
        end
      end
    end
  end
end
