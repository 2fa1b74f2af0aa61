# frozen_string_literal: true

module Gadwall
  module Tests
    # What a test shows for each atom, kept small: atoms that show the same share a prediction, and the humps of numbers
    # stand in one packed row. There is one of these for every test of every circuit that is remembered.
    class PredictionSet
      # predictions: by atom, Array of Prediction::Number or ::Choice, equal ones being one object; scale: Scale of the
      # numbers, nil for choices.
      def initialize(predictions, scale)
        @scale = scale
        index = {}.compare_by_identity
        @index = predictions.map { |prediction| index[prediction] ||= index.size }.pack("S*").freeze
        distinct = index.keys
        scale ? pack(distinct) : @choices = distinct.freeze
        freeze
      end

      # The prediction for an atom. Returns a Prediction::Number or ::Choice.
      def [](atom)
        nth(@index.unpack1("S", offset: atom * 2))
      end

      # By atom: how likely a result is. The block turns the likelihood of each distinct prediction into what is kept.
      def densities(result, &)
        known = (@choices ? @choices.map { |choice| choice.density(result) } : numbers(result)).map(&)
        @index.unpack("S*").map { |i| known[i] }
      end

      private

      # By distinct prediction: the density of a reading.
      def numbers(reading)
        humps = @humps.unpack("d*")
        y = reading.over_limit? ? nil : @scale.of(reading.value)
        blur = y ? @scale.told_roughly(reading.value) : 0.0
        @starts
          .unpack("L*")
          .each_cons(2)
          .map { |from, upto| Prediction::Number.density(humps, from, upto, @scale, y, blur) }
      end

      def nth(i)
        return @choices[i] if @choices

        from, upto = @starts.unpack("L2", offset: i * 4)
        Prediction::Number.of_row(@humps.unpack("d#{upto - from}", offset: from * 8), @scale)
      end

      def pack(distinct)
        rows = distinct.map(&:row)
        @starts = rows.reduce([0]) { |starts, row| starts << (starts.last + row.size) }.pack("L*").freeze
        @humps = rows.flatten.pack("d*").freeze
      end
    end
  end
end
