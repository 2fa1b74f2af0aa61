# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Fluid level read, and bled since it was last opened; or nothing of it left to be feared.
      class Level < Need
        TEXT = "Fluid level correct, and bled since it was last opened"
        LEVEL_TEST = "level_and_air"

        # As of Need.
        def met?(suspect)
          examined.shown_sound?(suspect.circuit, LEVEL_TEST) ||
            examined.posterior.chance_at(suspect.circuit.id, "fluid") < Separate::RIVAL_FROM
        end

        # As of Need.
        def tests(suspect)
          ["#{suspect.circuit.id}.#{LEVEL_TEST}"]
        end
      end
    end
  end
end
