# frozen_string_literal: true

module Gadwall
  module Circuits
    # A prepared network with some conductances changed, ready to be read between any two nodes.
    # The small system of the identity (one row for each change) is inverted once; see Prepared.
    class Changed
      # prepared: Prepared; changes: [[branch, siemens], ...].
      def initialize(prepared, changes)
        @prepared = prepared
        @branches = changes.map(&:first)
        @siemens = changes.map(&:last)
        @small = small_inverse
        @gains = {}
        @ohms = {}
      end

      # Ohms between a and b, sources off.
      def ohms(a, b)
        @ohms[[a, b]] ||= corrected_ohms(@prepared.branch(a, b))
      end

      # {source id or "sink" => volts from b to a}, each drive at its prepared strength, the sink at one ampere.
      def gains(a, b)
        @gains[[a, b]] ||= corrected_gains(@prepared.branch(a, b))
      end

      private

      def corrected_ohms(probe)
        base = @prepared.impedance(probe, probe)
        return base if @branches.empty?

        coupling = @branches.map { |branch| @prepared.impedance(branch, probe) }
        base - dot(coupling, currents(coupling))
      end

      def corrected_gains(probe)
        gains = @prepared.gains(probe)
        return gains if @branches.empty?

        coupling = @branches.map { |branch| @prepared.impedance(probe, branch) }
        gains.to_h { |id, volts| [id, volts - dot(coupling, flows.fetch(id))] }
      end

      # By drive: the currents that the changes carry.
      def flows
        @flows ||= begin
          by_branch = @branches.map { |branch| @prepared.gains(branch) }
          @prepared.gains([nil, nil]).keys.to_h { |id| [id, currents(by_branch.map { |gains| gains.fetch(id) })] }
        end
      end

      # (I + D E'ZE)^-1 D v for the volts v across the branches.
      def currents(volts)
        driven = volts.each_with_index.map { |volt, i| @siemens[i] * volt }
        @small.map { |row| dot(row, driven) }
      end

      def small_inverse
        return [] if @branches.empty?
        return [[1.0 / (1.0 + (@siemens[0] * @prepared.impedance(@branches[0], @branches[0])))]] if @branches.size == 1

        rows = @branches.each_with_index.map do |p, i|
          @branches.each_with_index.map { |q, j| (i == j ? 1.0 : 0.0) + (@siemens[i] * @prepared.impedance(p, q)) }
        end
        rows.size == 2 ? inverse_of_two(*rows) : LU.new(rows).inverse
      end

      def inverse_of_two(first, second)
        (a, b), (c, d) = first, second
        determinant = (a * d) - (b * c)
        [[d / determinant, -b / determinant], [-c / determinant, a / determinant]]
      end

      def dot(a, b)
        sum = 0.0
        a.each_with_index { |value, i| sum += value * b[i] }
        sum
      end
    end
  end
end
