# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A look at a place.
      # As of Act.
      class Look < Act
        def perform
          by_hand_at(given["place"], Tests::Kinds::Looked, "Nothing to see")
        end
      end
    end
  end
end
