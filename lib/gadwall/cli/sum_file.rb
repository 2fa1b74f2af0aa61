# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall sum`: one of the quick sums, or the list of them.
    module SumFile
      # name: of a sum; given: {input => text}. Returns a Hash. Raises UnknownNameError, InputError.
      def self.computed(name, given)
        done = Calculators::Book.compute(name, given)
        result = done.result
        {
          sum: name,
          inputs: done.inputs,
          assumed: done.assumed,
          result: {
            value: result.value,
            unit: result.unit
          },
          more: result.more.map { |words, value, unit| { name: words, value: value, unit: unit } },
          formula: done.record["formula"],
          source: done.record["source"]
        }
      end

      # {sums: [{sum, name, group, unit, inputs: [{id, name, unit, low, high, choices, and one of example, assumed,
      # default}, ...]}, ...]}.
      def self.list
        rows =
          Calculators::Book.records.values.map do |row|
            {
              sum: row["id"],
              name: row["name"],
              group: row["group"],
              unit: row["unit"],
              inputs: row["inputs"].map { |input| input.except("text") },
              formula: row["formula"],
              source: row["source"]
            }
          end
        { sums: rows }
      end
    end
  end
end
