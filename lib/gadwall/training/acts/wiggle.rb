# frozen_string_literal: true

module Gadwall
  module Training
    module Acts
      # A wire or connector moved while a value is watched.
      # As of Act.
      class Wiggle < Act
        def perform
          by_hand_at(given["place"], Tests::Kinds::Moved, "Nothing to wiggle there")
        end
      end
    end
  end
end
