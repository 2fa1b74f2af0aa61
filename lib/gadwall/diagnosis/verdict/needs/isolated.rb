# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Shown by a test that nothing but this part can spoil: its plug off, a load or a known part in its place; or what
      # else could have spoilt it is cleared by other readings.
      class Isolated < Need
        TEXT = "Isolating test on this part"

        # As of Need.
        def met?(suspect)
          examined.isolated?(suspect, examined.cleared_places(suspect))
        end

        # As of Need.
        def tests(suspect)
          [choice.isolating(suspect, examined.cleared_places(suspect)) || choice.clearing(suspect)].compact
        end
      end
    end
  end
end
