# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A hint bought. seq: of the last entry of the record that it was bought for.
      class Hint < Act
        MINUTES = 5.0 # demo: what a hint costs

        # As of Act.
        def perform
          stand.spend(MINUTES)
          stand.hinted(given["seq"])
          say("Hint #{stand.hints}")
        end
      end
    end
  end
end
