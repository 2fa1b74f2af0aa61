# frozen_string_literal: true

module Gadwall
  module CLI
    # `bin/gadwall sum`: one of the sums of the trade, or the list of them.
    class Sum < Command
      USAGE = ["sum [NAME key=value ...] | --lines", "one of the quick sums; without a name, the list of them"].freeze

      private

      def declare(parser)
        declare_lines(parser)
      end

      def fits?(rest)
        rest.drop(1).all? { |pair| pair.match?(/\A\w+=/) }
      end

      def answer(name = nil, *pairs)
        name ? SumFile.computed(name, pairs.to_h { |pair| pair.split("=", 2) }) : SumFile.list
      end

      def many(data)
        name, inputs = data.values_at("sum", "inputs") if data.is_a?(Hash)
        unless name.is_a?(String) && (inputs.nil? || inputs.is_a?(Hash))
          raise InputError.new(field: "line", given: data.to_s[0, 40], expected: '{"sum": "name", "inputs": {...}}')
        end

        SumFile.computed(name, (inputs || {}).transform_values { |value| typed(value) })
      end

      def typed(value)
        return value.to_s if value.is_a?(String) || value.is_a?(Numeric)

        raise InputError.new(field: "inputs", given: value.to_s[0, 40], expected: "texts or numbers")
      end
    end
  end
end
