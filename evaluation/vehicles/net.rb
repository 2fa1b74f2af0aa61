# frozen_string_literal: true

module Gadwall
  module Evaluation
    module Vehicles
      # A resistive network of its own, solved by plain elimination: nodes by name, resistors, sources behind a
      # resistance, currents. It is small, so it is made anew for every reading. "body" is the zero.
      class Net
        BODY = "body"
        LEAK = 2.0e10 # ohm from every node to the body, so that what hangs in the air has a potential

        def initialize
          @conductances = []
          @currents = []
        end

        # ohm between two nodes.
        def resistor(from, upto, ohm)
          @conductances << [from, upto, 1.0 / ohm]
        end

        # volt between two nodes behind ohm; plus is the first.
        def source(from, upto, volt, ohm)
          resistor(from, upto, ohm)
          current(upto, from, volt / ohm)
        end

        # ampere taken out of one node and put into the other.
        def current(out_of, into, ampere)
          @currents << [out_of, into, ampere]
        end

        # {node => volt against the body}.
        def solve
          nodes =
            (@conductances.flat_map { |row| row.first(2) } + @currents.flat_map { |row| row.first(2) }).uniq - [BODY]
          index = nodes.each_with_index.to_h
          matrix, right = assembled(index)
          volts = eliminated(matrix, right)
          nodes.zip(volts).to_h.merge(BODY => 0.0)
        end

        private

        def assembled(index)
          matrix = Array.new(index.size) { Array.new(index.size, 0.0) }
          right = Array.new(index.size, 0.0)
          index.each_value { |i| matrix[i][i] = 1.0 / LEAK }
          @conductances.each { |from, upto, siemens| stamp(matrix, index[from], index[upto], siemens) }
          @currents.each do |out_of, into, ampere|
            right[index[out_of]] -= ampere if index[out_of]
            right[index[into]] += ampere if index[into]
          end
          [matrix, right]
        end

        def stamp(matrix, from, upto, siemens)
          matrix[from][from] += siemens if from
          matrix[upto][upto] += siemens if upto
          return unless from && upto

          matrix[from][upto] -= siemens
          matrix[upto][from] -= siemens
        end

        # Gaussian elimination with the largest pivot.
        def eliminated(matrix, right)
          size = right.size
          size.times do |k|
            pivot = (k...size).max_by { |i| matrix[i][k].abs }
            matrix[k], matrix[pivot] = matrix[pivot], matrix[k]
            right[k], right[pivot] = right[pivot], right[k]
            ((k + 1)...size).each { |i| subtract(matrix, right, i, k) }
          end
          substituted(matrix, right)
        end

        def subtract(matrix, right, row, pivot)
          factor = matrix[row][pivot] / matrix[pivot][pivot]
          return if factor.zero?

          (pivot...right.size).each { |j| matrix[row][j] -= factor * matrix[pivot][j] }
          right[row] -= factor * right[pivot]
        end

        def substituted(matrix, right)
          volts = Array.new(right.size, 0.0)
          (right.size - 1).downto(0) do |i|
            rest = ((i + 1)...right.size).sum { |j| matrix[i][j] * volts[j] }
            volts[i] = (right[i] - rest) / matrix[i][i]
          end
          volts
        end
      end
    end
  end
end
