# frozen_string_literal: true

module Gadwall
  module Job
    module Entries
      # What was seen on the vehicle: evidence before the repair, and taken back where it was wrong.
      module Seen
        include Withdrawable

        # Does the diagnosis use it?
        def evidence?
          !after?
        end
      end
    end
  end
end
