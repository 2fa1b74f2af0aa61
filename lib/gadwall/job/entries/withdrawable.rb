# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # What may have been wrong.
      module Withdrawable
        # May it be taken back, with a reason?
        def withdrawable?
          true
        end
      end
    end
  end
end
