# frozen_string_literal: true

module Gadwall
  module Simulator
    module Heavy
      # What a heavy vehicle's module calls a circuit and what is wrong with it: suspect parameter and failure mode
      # (data/codes/j1939.yml, j1939_fmi.yml).
      class SuspectParameters
        BAD_DEVICE = 12

        # catalogue: Knowledge::Catalogue.
        def initialize(catalogue)
          @catalogue = catalogue
        end

        # circuit: Vehicle::System::Circuit; claim: what its monitor says. Returns [spn, fmi], or nil for a circuit
        # without a number.
        def of(circuit, claim)
          row = @catalogue.j1939.values.find { |each| (each["circuits"] || []).include?(circuit.id) } or return
          [row["id"].to_i, mode(claim)]
        end

        private

        # The failure mode that claims just this, else one that this may be meant by.
        def mode(claim)
          rows = @catalogue.failure_modes_j1939.values
          own = rows.find { |row| row["claim"] == claim }
          own ||= rows.find { |row| @catalogue.claims.dig(row["claim"], "any_of")&.include?(claim) }
          own ? own["id"].to_i : BAD_DEVICE
        end
      end
    end
  end
end
