# frozen_string_literal: true

module Gadwall
  module Calculators
    # Torque, threads and units (data/sums/bolts.yml).
    module BoltSums
      NUT_FACTOR = { "dry" => 0.20, "oiled" => 0.15, "greased" => 0.12 }.freeze # handbook: bolt torque, from memory

      module_function

      # N m to set on the wrench.
      def wrench_extension(torque:, wrench:, extension:)
        unless (wrench + extension).positive?
          raise InputError.new(field: "extension", given: extension, expected: "more than -#{wrench} mm")
        end

        Book.result(torque * wrench / (wrench + extension))
      end

      # kN.
      def bolt_clamp(torque:, diameter:, state:)
        clamp = ->(factor) { torque / (factor * diameter) }
        others = NUT_FACTOR.except(state).map { |name, factor| [name, clamp.call(factor), "kN"] }
        Book.result(clamp.call(NUT_FACTOR.fetch(state)), more: others)
      end

      # In the other unit.
      def convert(value:, from:, to:)
        Book.result(Quantity::Units.convert(value, from, to), unit: to)
      end
    end
  end
end
