# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # An outcome seen at a test: a look, a lamp, live data. capture: of which capture it was taken, or nil.
      class Finding < Observed
        KIND = "finding"
        VERSION = 1
        FIELD = "result"

        private

        def check
          super
          text!(FIELD, 200, "what was seen")
        end
      end
    end
  end
end
