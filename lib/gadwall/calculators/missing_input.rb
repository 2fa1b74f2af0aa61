# frozen_string_literal: true

module Gadwall
  module Calculators
    # Inputs of a sum that nobody gave: they are asked for, never filled with an example.
    class MissingInput < InputError
      # records of data/sums of what is missing.
      attr_reader :inputs

      def initialize(inputs)
        @inputs = inputs
        names = inputs.map { |input| [input["name"], input["unit"]].reject { |text| text.to_s.empty? }.join(", ") }
        first = inputs.first
        super(
          field: first["id"],
          given: "",
          expected: names.first,
          fix: inputs.size > 1 ? "Still needed too: #{names.drop(1).join("; ")}." : nil
        )
      end
    end
  end
end
