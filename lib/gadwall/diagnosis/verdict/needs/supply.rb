# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Feed and ground under load, of the module or of the part where it has its own. Only a voltage under load counts:
      # a look at the plug clears the plug, not the feed.
      class Supply < Need
        TEXT = "Power and ground of the module proven under load"
        LOADED = "loaded_supply"

        # As of Need.
        def met?(suspect)
          supply = supply_of(suspect) or return true
          examined.shown_sound?(supply, LOADED)
        end

        # As of Need.
        def tests(suspect)
          ["#{supply_of(suspect).id}.#{LOADED}"]
        end

        private

        def supply_of(suspect)
          return suspect.circuit if suspect.circuit.model.tests.key?(LOADED)

          examined.system.supply_of(suspect.circuit.module)
        end
      end
    end
  end
end
