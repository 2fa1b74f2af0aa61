# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # The module answered a scan, so its network works. One that is silent for a fault of its own: its bus is proven
      # where it sits, or it has none.
      class Answered < Need
        TEXT = "The module responds to a scan"

        # As of Need.
        def met?(suspect)
          return examined.answered?(suspect) unless suspect.fault.mode == "dead" && suspect.circuit.powers?

          examined.system.buses_of(suspect.circuit.module).all? { |bus| measured?(bus) }
        end

        private

        def measured?(bus)
          examined.of(bus).any? { |each| each.test.numeric? && examined.coverage.normal?(each) }
        end
      end
    end
  end
end
