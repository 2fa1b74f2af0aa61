# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Something was read or tried at the part's own connector. Data of the scan tool alone show the whole circuit.
      class AtPlug < Need
        TEXT = "A test at the connector of this part"

        # As of Need.
        def met?(suspect)
          plug = suspect.circuit.harness.connectors.last or return true
          examined.of(suspect.circuit).any? { |each| examined.at_connector?(each.test, plug) }
        end

        # As of Need.
        def tests(suspect)
          plug = suspect.circuit.harness.connectors.last
          [choice.best(suspect.circuit) { |test| examined.at_connector?(test, plug) }].compact
        end
      end
    end
  end
end
