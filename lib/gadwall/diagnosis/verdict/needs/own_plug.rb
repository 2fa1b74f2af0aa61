# frozen_string_literal: true

module Gadwall
  module Diagnosis
    module Needs
      # Of a module: its connector looked into and dry, or dried without effect, since water there leaks a signal away
      # before it reaches the input, and pulls a bus down, as the module does.
      class OwnPlug < Need
        TEXT = "Connector of this module inspected"
        MODULE_PLUG = "module_plug" # key of the access to what is in the connector of the control module
        DRY = %w[good same].freeze # a connector as it should be, or one that was cleaned and changed nothing

        # The connector at which a suspected module hangs on its bus, or nil.
        def self.on_bus(suspect)
          suspect.circuit.harness.modules.find { |id, _| id == suspect.fault.place }&.last
        end

        # As of Need.
        def met?(suspect)
          connector = plug_of(suspect)
          return true if connector.nil? || !asked?(suspect, connector)

          examined.looked_into?(suspect.circuit, connector) { |each| DRY.include?(each.result) }
        end

        # As of Need. Looked into; and cleaned, where that was not enough.
        def tests(suspect)
          looks = examined.looks_into(suspect.circuit, plug_of(suspect))
          looks.filter_map { |id| choice.undone(suspect.circuit, id) }.first(1)
        end

        private

        # The connector in which water would read just like the module; nil where there is none.
        def plug_of(suspect)
          plug = OwnPlug.on_bus(suspect)
          return suspect.circuit.harness.connectors.find { |each| each.with == MODULE_PLUG } if plug.nil?

          plug if suspect.fault.effect == "between"
        end

        def asked?(suspect, connector)
          OwnPlug.on_bus(suspect) || drops_out?(suspect) || examined.water_feared?(suspect.circuit, connector) ||
            examined.looked_into?(suspect.circuit, connector)
        end

        # What drops out is a contact before it is a module.
        def drops_out?(suspect)
          examined.accusing(suspect).any? { |each| each.result == "dropouts" }
        end
      end
    end
  end
end
